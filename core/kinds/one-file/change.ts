import { fitsName, renameTo } from '../../formats/sniff.ts'
import type { PhoneModel } from '../../phones/capability.ts'
import { playsOn } from '../../phones/guides/plays.ts'
import type { Formed } from '../kind.ts'
import { albumsOf, filesOn, type OneFileSpec } from './spec.ts'
import type { OneFile, OneFileAbility, Say } from './model.ts'

/** What becomes of a note its new phone does not keep. */
const dropped: Readonly<Partial<Record<Say, { readonly code: string; readonly loss: boolean }>>> = {
  favourite: { code: 'favourite-dropped', loss: true },
  hidden: { code: 'hidden-becomes-visible', loss: true },
  slow: { code: 'slow-becomes-plain', loss: true },
  title: { code: 'title-in-name', loss: false },
  caller: { code: 'caller-in-name', loss: false },
  heard: { code: 'heard-dropped', loss: false },
  script: { code: 'script-dropped', loss: true },
  position: { code: 'position-dropped', loss: true },
  marks: { code: 'marks-dropped', loss: true },
  places: { code: 'set-by-owner', loss: true },
}

/** Every change a phone can force on a file of that kind. */
export function changesOf({
  content,
  isPlayed,
  hasAlbums,
  isDatedByFile,
  writesTitle,
  face,
}: OneFileSpec): Record<string, { loss: boolean }> {
  const abilities = Object.values(face.phones).flatMap(({ write }) =>
    write && !('cannot' in (write as object)) ? [write as OneFileAbility] : [],
  )
  const placed = new Set(abilities.flatMap(({ placed: where }) => (where ? [where] : [])))
  return {
    ...Object.fromEntries(content.flatMap((say) => (dropped[say] ? [[dropped[say].code, { loss: dropped[say].loss }]] : []))),
    ...(isPlayed ? { 'not-playable': { loss: true }, 'extension-corrected': { loss: false } } : {}),
    ...(writesTitle ? { 'title-in-file': { loss: false } } : {}),
    ...(hasAlbums ? { 'albums-one-only': { loss: true } } : {}),
    ...(isDatedByFile ? { 'date-by-camera': { loss: false } } : {}),
    ...Object.fromEntries([...placed].map((where) => [`placed-in-${where}`, { loss: false }])),
    'damaged-already': { loss: false },
    'name-changed': { loss: false },
  }
}

/** The form a file takes on a phone, with every change named, or the rule by which it can't cross. @param known every change of the kind */
export function changeFile(spec: OneFileSpec, known: ReturnType<typeof changesOf>, file: OneFile, to: PhoneModel): Formed<OneFile> {
  const { write } = filesOn(to, spec.face.code)
  if ('cannot' in write) return write
  if (file.isCloudOnly) return { cannot: 'only-in-cloud' }
  if (spec.isOne && !spec.isOne.by(file)) return { cannot: spec.isOne.rule }
  // it would lie there and never open: its shop gives it to its owner again
  if (spec.isPlayed && file.seen.isLocked) return { cannot: 'locked-by-its-shop' }
  if (write.mostBytes !== undefined && file.sizeBytes > write.mostBytes) return { cannot: 'too-large-for-it' }
  const codes = new Set<string>()
  const item = fit(spec, { ...file, isDateContradicted: false }, { can: write, to, codes })
  if (file.isDateContradicted && spec.isDatedByFile) codes.add('date-by-camera')
  if (file.seen.isDamaged) codes.add('damaged-already')
  return { item, changes: [...codes].map((code) => ({ code, loss: known[code]!.loss })) }
}

function fit(spec: OneFileSpec, file: OneFile, { can, to, codes }: { can: OneFileAbility; to: PhoneModel; codes: Set<string> }): OneFile {
  const says: Partial<Record<Say, string>> = { ...file.says }
  for (const say of spec.content) {
    if (says[say] === undefined || can.keeps.includes(say)) continue
    if (dropped[say]) codes.add(dropped[say].code)
    delete says[say]
  }
  let { name, folder, albums } = file
  // the date of a file is soon another’s: what it holds itself stays with it
  const titled =
    spec.writesTitle && file.says.title && !says.title && file.seen.canBeTitled ? { title: file.says.title, atMs: file.atMs } : undefined
  if (titled) codes.add('title-in-file')
  if (can.placed) {
    codes.add(`placed-in-${can.placed}`)
    name = spec.placedName?.(file) ?? name
    folder = spec.title
  } else if (!spec.hasPath || !can.folders) folder = ''
  if (spec.isPlayed) {
    if (!playsOn(to, { type: file.type, codecs: file.seen.codecs })) codes.add('not-playable')
    if (!fitsName(name, file.type)) {
      name = renameTo(name, file.type)
      codes.add('extension-corrected')
    }
  }
  const [fitting, inFolder] = [
    nameOn(name, can),
    folder
      .split('/')
      .map((part) => nameOn(part, can))
      .join('/'),
  ]
  // what a player lists by its tags it does not list by its name
  if ((spec.hasPath || can.placed) && (fitting !== name || inFolder !== folder)) codes.add('name-changed')
  if (spec.hasAlbums) {
    const mine = albumsOf(file)
    if (can.albums === 'folders' && mine.length > 1) codes.add('albums-one-only')
    albums = can.albums === 'own' ? mine : mine.slice(0, 1).map((album) => nameOn(album, { ...can, plainNames: true }))
    folder = can.albums === 'folders' && albums[0] ? `Movies/${albums[0]}` : ''
    return { ...file, says, name: fitting, folder, albums: can.albums === 'own' ? albums : [], isPlaced: can.placed !== undefined }
  }
  return { ...file, says, titled, name: fitting, folder: inFolder, albums: [], isPlaced: can.placed !== undefined }
}

/** A name as the phone's file system takes it: no file system takes a stroke, that of a card lacks some signs more. */
function nameOn(name: string, { plainNames }: Pick<OneFileAbility, 'plainNames'>): string {
  const plain = name.replace(plainNames ? /[\\/:*?"<>|]/g : /[\\/]/g, '-')
  return plainNames ? plain.replace(/[. ]+$/, '') || '-' : plain
}

/** What a file is called for its owner: a number a phone put behind it, because another was called so already, is none of it. */
export function contentName(name: string): string {
  return name.normalize('NFC').replace(/ \(\d{1,3}\)(?=\.[A-Za-z0-9]{1,8}$|$)/, '')
}
