import { createRecordSplitter } from '../../formats/files/records.ts'
import { fileIssues } from '../../formats/file-facts.ts'
import { renameTo } from '../../formats/sniff.ts'
import { createMediaInspector } from '../../formats/media/inspect.ts'
import { createTitleWriter } from '../../formats/media/titled.ts'
import { invariant } from '../../invariant.ts'
import type { PhoneModel } from '../../phones/capability.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { ArchiveFace, FoundFile, Kind } from '../kind.ts'
import { changeFile, changesOf, contentName } from './change.ts'
import { fileAsRecord, fileFromListing, fileInFolder, listingOfFile, noteFile } from './listing.ts'
import type { OneFile } from './model.ts'
import { albumsOf, filesOn, type OneFileSpec } from './spec.ts'

export type { OneFile } from './model.ts'
export { albumsOf } from './spec.ts'

const canonicalVersion = 1
/** What a phone tells of one it cannot give, or gives as nothing. */
const failures = [
  'no-file-entry',
  'file-unknown',
  'empty-file',
  'attachment-missing',
  'stalls',
  'reads-differently',
  'storage-error',
] as const

/** A kind whose items are a file each. */
export function oneFileKind(spec: OneFileSpec): Kind<OneFile> {
  const { face } = spec
  const changes = changesOf(spec)
  return {
    ...face,
    ...(spec.waysOut ? { waysOut: spec.waysOut } : {}),
    canonicalVersion,
    joins: false,
    read(bytes, tools) {
      const file = fileFromListing(bytes, tools)
      if ('code' in file) return { ok: false, code: file.code }
      if (!file.isCloudOnly && file.sizeBytes === 0 && !spec.canBeEmpty) return { ok: false, code: 'empty-file' }
      return { ok: true, item: file, issues: file.seen.issue ? [file.seen.issue] : [] }
    },
    atoms: (file) => atomsOf(spec, file),
    canonicalBytes: (atoms) => utf8Bytes(`${face.code} ${canonicalVersion}\n${atoms.join('\n')}`),
    matchKeys: () => [],
    change: (file, to) => changeFile(spec, changes, file, to),
    changes,
    rules: [...rulesOf(spec)],
    failures,
    issues: fileIssues,
    sample: (from) => sampleOf(spec, from),
    write(file, to) {
      invariant(!('cannot' in filesOn(to, face.code).write), 'only a phone that takes them is written to')
      return listingOfFile(file)
    },
    ...(spec.shown ? { shown: ({ isCloudOnly, handle }: OneFile) => (isCloudOnly ? undefined : { handle, by: spec.shown! }) } : {}),
    filesOf: ({ isCloudOnly, handle, sizeBytes, digest }) => (isCloudOnly ? [] : [{ handle, sizeBytes, digest }]),
    noteFiles: noteFile,
    inspector: createMediaInspector,
    ...(spec.writesTitle
      ? {
          rewriters: ({ titled, handle, type, sizeBytes }: OneFile) =>
            titled ? new Map([[handle, () => createTitleWriter(type, titled, sizeBytes)]]) : new Map(),
          withMade(file: OneFile, made: ReadonlyMap<string, FoundFile>) {
            const one = made.get(file.handle)
            return one ? { ...file, titled: undefined, digest: one.digest, sizeBytes: one.sizeBytes } : file
          },
        }
      : {}),
    withHandles: (file, handles) => ({ ...file, handle: handles.get(file.handle) ?? file.handle }),
    sizeBytes: ({ isCloudOnly, sizeBytes }) => (isCloudOnly ? 0 : sizeBytes),
    archive: archiveOf(spec),
    describe(file) {
      const group = spec.groupOf(file)
      const lines = [...spec.linesOf(file), ['name', file.name] as const, ['folder', file.folder] as const]
      return {
        title: spec.titleOf(file),
        ...(group ? { group } : {}),
        lines: lines.filter(([, text]) => text).map(([field, text]) => ({ field, text })),
      }
    },
    shape(file) {
      const { isCloudOnly, sizeBytes, seen, isPlaced } = file
      const shape: Record<string, number> = { fileBytes: isCloudOnly ? 0 : sizeBytes }
      if (spec.hasLength && seen.ms > 0) shape.seconds = Math.round(seen.ms / 1000)
      if (seen.width && seen.height) Object.assign(shape, { width: seen.width, height: seen.height })
      const marks = {
        ...spec.marksOf?.(file),
        cloud: isCloudOnly,
        locked: seen.isLocked,
        damaged: seen.isDamaged,
        turned: seen.isTurned,
        apart: isPlaced,
      }
      for (const [name, is] of Object.entries(marks)) if (is) shape[name] = 1
      return shape
    },
    figures: spec.hasLength ? ['fileBytes', 'seconds'] : ['fileBytes'],
    at: (file) => file.atMs,
    slice: (file) => spec.groupOf(file),
    ...(spec.leftByDefault ? { leftByDefault: spec.leftByDefault } : {}),
  }
}

function* rulesOf({ face, isOne, isPlayed }: OneFileSpec): Generator<string> {
  yield* ['only-in-cloud', 'too-large-for-it', 'file-is-read-only', 'not-known', 'no-such-kind']
  if (isPlayed) yield 'locked-by-its-shop'
  if (isOne) yield isOne.rule
  for (const { write } of Object.values(face.phones)) {
    const cannot = (write as { cannot?: string }).cannot
    if (cannot && cannot !== 'file-is-read-only') yield cannot
  }
}

/** What one says, as facts that must be found again; what it is called there is content only where its owner looks for it by that. */
function atomsOf(spec: OneFileSpec, file: OneFile): string[] {
  const { isCloudOnly, folder, name, digest, atMs, isPlaced, hasPlace } = file
  const atoms = [isCloudOnly ? `cloud\u001f${folder}\u001f${name}` : `file\u001f${digest}`]
  if (spec.isDated) atoms.push(`at\u001f${atMs === null ? '' : atMs / 1000}`)
  if (isPlaced) atoms.push(`named\u001f${contentName(name)}`)
  else for (const say of spec.content) if (file.says[say]) atoms.push(`${say}\u001f${file.says[say]!.normalize('NFC')}`)
  if (spec.hasPath) atoms.push(`path\u001f${folder.normalize('NFC')}/${contentName(name)}`)
  if (spec.hasPlace && hasPlace) atoms.push('placed')
  if (spec.hasAlbums) for (const album of new Set(albumsOf(file))) atoms.push(`album\u001f${album.normalize('NFC').toLowerCase()}`)
  return atoms.sort()
}

function archiveOf({ face, tag, title, folderOf, titleOf, page, brings, isDatedByFile, isDated }: OneFileSpec): ArchiveFace<OneFile> {
  return {
    file: `${title}.xml`,
    page: { title, by: 'name', ...page },
    head: '<?xml version="1.0" encoding="UTF-8"?>\r\n<folder-listing version="1.0">\r\n',
    tail: '</folder-listing>\r\n',
    // whatever its owner has of it goes along, also what a phone would not play
    form: (file) => (file.isCloudOnly ? { cannot: 'only-in-cloud' } : { item: file, changes: [] }),
    write: (_, { record, paths }) => fileInFolder(tag, record, paths),
    splitter: () => createRecordSplitter((line) => (line === `<${tag}>` ? 'begins' : line === `</${tag}>` ? 'ends' : 'goes-on')),
    brought: {
      begins: (head) => head.startsWith('<?xml') && head.includes('<folder-listing') && head.includes(`<${tag}>`),
      recordOf: (file) => (brings?.(file) ? fileAsRecord(tag, file) : undefined),
    },
    placeOf(file) {
      const below = folderOf?.(file)
      const name = file.name || titleOf(file) || face.code
      return { folder: below ? `${title}/${below}` : title, name, atMs: isDated || isDatedByFile ? file.atMs : null }
    },
  }
}

function sampleOf({ sampleOf: samples, sampleSays = {}, isDated, hasPath }: OneFileSpec, { maker }: PhoneModel): OneFile {
  const { type, codecs = [] } = (Object.hasOwn(samples, maker) ? samples[maker] : samples[''])!
  return {
    // signs that the file system of a card lacks
    name: renameTo(hasPath ? 'a: b' : 'a', type),
    type,
    handle: 'a',
    sizeBytes: 1,
    digest: 'a',
    folder: '',
    albums: [],
    atMs: isDated ? 0 : null,
    isDateContradicted: false,
    hasPlace: false,
    says: sampleSays,
    isPlaced: false,
    isCloudOnly: false,
    seen: {
      ms: 0,
      codecs,
      width: 0,
      height: 0,
      isLocked: false,
      isTurned: false,
      isDamaged: false,
      title: '',
      artist: '',
      album: '',
      track: '',
      year: '',
      isPodcast: false,
      isBook: false,
      canBeTitled: sampleSays.title !== undefined,
      issue: '',
    },
  }
}
