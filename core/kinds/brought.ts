import { archiveManifest, manifestName } from '../formats/files/manifest.ts'
import { TooLarge, type CountingSplitter } from '../formats/files/records.ts'
import { isPlainText, sniffType } from '../formats/sniff.ts'
import { isZip } from '../formats/zip/crc.ts'
import { binaryText, joinBytes } from '../text/bytes.ts'
import type { ArchiveFace, Kind, ReadTools } from './kind.ts'
import type { OtherCode } from './not-taken.ts'
import { kinds } from './registry.ts'

/** A file somebody brought, wherever it lies; it can be read more than once. */
export interface BroughtFile {
  /** Its folders and its name; of one in a ZIP, behind that one's. */
  readonly path: string
  readonly sizeBytes: number
  readonly modifiedMs: number
  /** @throws Error when it can't be read to its end */
  open(): AsyncIterable<Uint8Array>
}

/** What is not taken, by name; `n` of a file that is taken for the rest. */
export interface Other {
  readonly path: string
  readonly sizeBytes: number
  readonly why: OtherCode
  readonly n?: number
}

export interface SortedFiles {
  /** By kind, how many records there are. */
  readonly items: Readonly<Record<string, number>>
  /** Of them, how many can't be read. */
  readonly unreadable: number
  readonly others: readonly Other[]
  /** Paths of the files that items are made of, or that belong to them. */
  readonly kept: ReadonlySet<string>
  /** Of files that were taken home from a shop: how the phone they come from tells numbers and times. */
  readonly from: { readonly region: string; readonly zone: string } | null
}

export interface SortTools {
  /** A record of a kind, in the form of its standard file; its files by their paths. */
  record(kind: string, bytes: Uint8Array): Promise<void> | void
  /** SHA-256 of bytes as they come, base64url: what lists name other files by. */
  digest(): { push(bytes: Uint8Array): void; end(): string }
  /** How much of all was read. */
  onBytes?(n: number): Promise<void> | void
}

const headBytes = 4096
/** What nobody but a reader of numbers and times asks for: which files a record has does not hang on them. */
const tools: ReadTools = { number: (text) => text, hash: () => '', instant: () => 0, nowMs: 0 }

interface Seen {
  readonly file: BroughtFile
  readonly head: Uint8Array
  /** Kinds whose files begin so. */
  readonly kinds: readonly { readonly kind: Kind; readonly archive: ArchiveFace<unknown> }[]
  readonly type: string | undefined
}

/**
 * Sorts files by what they hold, never by what they are called: those of records are cut into them, pictures and films
 * are items by themselves unless a list names them, and what is neither is told by name, size and why.
 */
export async function sortFiles(files: readonly BroughtFile[], { record, digest, onBytes }: SortTools): Promise<SortedFiles> {
  const others: Other[] = []
  const other = ({ path, sizeBytes }: BroughtFile, why: OtherCode, n?: number) =>
    void others.push({ path, sizeBytes, why, ...(n === undefined ? {} : { n }) })
  const items: Record<string, number> = {}
  let unreadable = 0
  const byPath = new Map(files.map((file) => [file.path, file]))
  const { beside, from } = await listsOf(files)
  const seen: Seen[] = []
  for (const file of files) {
    if (beside.has(file.path)) {
      other(file, 'beside')
      continue
    }
    const head = await headOf(file).catch(() => undefined)
    if (!head) other(file, 'damaged')
    else seen.push({ file, head, kinds: head.length > 0 ? kindsOfHead(head) : [], type: sniffType(head) ?? textType(head) })
  }
  const digestOf = createDigests(digest, onBytes)
  /** Digests of what is taken, by size: two of one size may be the same. */
  const sizes = new Map<number, number>()
  for (const { file } of seen) sizes.set(file.sizeBytes, (sizes.get(file.sizeBytes) ?? 0) + 1)
  const taken = new Set<string>()
  const isSame = async (file: BroughtFile) => {
    if (sizes.get(file.sizeBytes) === 1) return false
    const found = await digestOf(file)
    if (found === undefined) return false
    if (taken.has(found)) return true
    taken.add(found)
    return false
  }
  const claimed = new Set<string>()
  /** Lists that name items of other kinds: what those are is known once all is sorted. */
  const naming: { kind: Kind; bytes: Uint8Array; folder: string }[] = []
  const keep = async (kind: Kind, archive: ArchiveFace<unknown>, bytes: Uint8Array, folder: string) => {
    const read = kind.read(bytes, tools)
    if (!read.ok) unreadable++
    items[kind.code] = (items[kind.code] ?? 0) + 1
    if (read.ok && kind.namesOthers) {
      naming.push({ kind, bytes, folder })
      return
    }
    const handles = read.ok ? (kind.filesOf?.(read.item) ?? []).map(({ handle }) => handle) : []
    if (!read.ok || handles.length === 0) return record(kind.code, bytes)
    // files are named from where their list lies
    const paths = new Map(handles.map((handle) => [handle, folder + handle]))
    for (const path of paths.values()) {
      const file = byPath.get(path)
      if (!file) continue
      claimed.add(path)
      if (sizes.get(file.sizeBytes) !== 1) {
        const found = await digestOf(file)
        if (found !== undefined) taken.add(found)
      }
    }
    return record(kind.code, archive.write(read.item, { record: bytes, position: items[kind.code]!, paths }))
  }
  // lists first: what they name is not an item once more
  for (const { file, kinds: of } of seen.filter((one) => one.kinds.length > 0)) {
    if (await isSame(file)) {
      other(file, 'same-as')
      continue
    }
    const folder = file.path.slice(0, file.path.lastIndexOf('/') + 1)
    const cutter = of[0]!.archive.brought!.splitter?.() ?? of[0]!.archive.splitter()
    let n = 0
    const each = async (bytes: Uint8Array) => {
      n++
      const chosen = of.find(({ archive }) => archive.brought!.takes?.(bytes) ?? true)
      if (chosen) await keep(chosen.kind, chosen.archive, bytes, folder)
    }
    try {
      for await (const chunk of file.open()) {
        await onBytes?.(chunk.length)
        for (const bytes of cutter.push(chunk)) await each(bytes)
      }
      for (const bytes of cutter.end()) await each(bytes)
      const left = 'others' in cutter ? (cutter as CountingSplitter).others() : 0
      if (left > 0) other(file, 'not-taken', left)
      else if (n === 0) other(file, 'not-known')
    } catch (error) {
      other(file, error instanceof TooLarge ? 'too-large' : 'damaged')
    }
  }
  for (const { file, head, type } of seen.filter((one) => one.kinds.length === 0)) {
    if (claimed.has(file.path)) continue
    if (head.length === 0) {
      other(file, 'empty')
      continue
    }
    const found = type && kinds.flatMap((kind) => (kind.archive?.brought?.recordOf ? [{ kind, archive: kind.archive }] : []))
    const made = found
      ? found.flatMap(({ kind, archive }) => {
          const bytes = archive.brought!.recordOf!({ ...file, type })
          return bytes ? [{ kind, bytes }] : []
        })
      : []
    if (made.length === 0) other(file, isZip(head) ? 'zip-inside' : isMail(head) ? 'mail' : 'not-known')
    else if (await isSame(file)) other(file, 'same-as')
    else {
      const { kind, bytes } = made[0]!
      items[kind.code] = (items[kind.code] ?? 0) + 1
      claimed.add(file.path)
      await record(kind.code, bytes)
    }
  }
  const fileNamed = naming.length > 0 ? findNamed(byPath) : undefined
  for (const { kind, bytes, folder } of naming) {
    const named = await kind.namesOthers!.found(bytes, async (path) => {
      const file = fileNamed!(folder, path)
      return file && claimed.has(file.path) ? digestOf(file) : undefined
    })
    await record(kind.code, named)
  }
  return { items, unreadable, others, kept: claimed, from }
}

/** Finds the file a list means: where the list lies, from the root, or the only one of that name. */
function findNamed(files: ReadonlyMap<string, BroughtFile>): (folder: string, path: string) => BroughtFile | undefined {
  const nameOf = (path: string) => path.slice(path.lastIndexOf('/') + 1)
  /** Undefined where several are called so. */
  const byName = new Map<string, BroughtFile | undefined>()
  for (const file of files.values()) byName.set(nameOf(file.path), byName.has(nameOf(file.path)) ? undefined : file)
  return (folder, path) => {
    const clean = path.replaceAll('\\', '/').replace(/^(\.\/)+/, '')
    return files.get(folder + clean) ?? files.get(clean.replace(/^\/+/, '')) ?? byName.get(nameOf(clean))
  }
}

/** A letter somebody wrote is text; e-mail is nothing this shop carries. */
const textType = (head: Uint8Array) => (!isMail(head) && isPlainText(head) ? 'text/plain' : undefined)

const isMail = (head: Uint8Array) => /^From [^\n]+\n([!-9;-~]+:[^\n]*\n)/.test(binaryText(head.subarray(0, 1000)))

function kindsOfHead(head: Uint8Array): Seen['kinds'] {
  const text = binaryText(head)
    // UTF-16, with its mark or without: every other byte is nothing
    .replaceAll('\0', '')
    .replace(/^(\u00ef\u00bb\u00bf|\u00ff\u00fe|\u00fe\u00ff)/, '')
    .trimStart()
  return kinds
    .flatMap((kind) => (kind.archive?.brought?.begins?.(text) ? [{ kind, archive: kind.archive }] : []))
    .sort((a, b) => Number(b.archive.brought!.takes !== undefined) - Number(a.archive.brought!.takes !== undefined))
}

async function headOf(file: BroughtFile): Promise<Uint8Array> {
  const chunks: Uint8Array[] = []
  let size = 0
  if (file.sizeBytes === 0) return new Uint8Array()
  for await (const chunk of file.open()) {
    chunks.push(chunk)
    if ((size += chunk.length) >= headBytes) break
  }
  return joinBytes(chunks).subarray(0, headBytes)
}

/** Digests of files, each read once. */
function createDigests(digest: SortTools['digest'], onBytes: SortTools['onBytes']) {
  const known = new Map<string, string | undefined>()
  return async (file: BroughtFile): Promise<string | undefined> => {
    if (known.has(file.path)) return known.get(file.path)
    const hash = digest()
    let found: string | undefined
    try {
      for await (const chunk of file.open()) {
        await onBytes?.(chunk.length)
        hash.push(chunk)
      }
      found = hash.end()
    } catch {
      // what can't be read is no other's double
      found = undefined
    }
    known.set(file.path, found)
    return found
  }
}

const mostListBytes = 100_000_000

/** What files that were taken home bring along for people: the list, the page, the tables. */
async function listsOf(files: readonly BroughtFile[]): Promise<{ beside: ReadonlySet<string>; from: SortedFiles['from'] }> {
  const beside = new Set<string>()
  let from: SortedFiles['from'] = null
  const own = new Set(kinds.flatMap(({ archive }) => (archive ? [archive.file] : [])))
  const folders = kinds.flatMap(({ archive }) => (archive?.eachBeside ? [`${archive.eachBeside.folder}/`] : []))
  const isBeside = (path: string) => (path.includes('/') ? folders.some((one) => path.startsWith(one)) : !own.has(path))
  for (const file of files) {
    const folder = file.path.slice(0, file.path.lastIndexOf('/') + 1)
    if (file.path !== folder + manifestName || file.sizeBytes > mostListBytes) continue
    try {
      const chunks: Uint8Array[] = []
      for await (const chunk of file.open()) chunks.push(chunk)
      const list = archiveManifest.parse(JSON.parse(new TextDecoder().decode(joinBytes(chunks))))
      beside.add(file.path)
      from ??= { region: list.from.region, zone: list.from.zone }
      // tables, the page and items once more stand beside the files of the kinds and say the same
      for (const { path } of list.files) if (isBeside(path)) beside.add(folder + path)
    } catch {
      // somebody else's file of that name is sorted as any other
    }
  }
  return { beside, from }
}
