import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { readTools } from '../../vault/read-tools.ts'
import { textOf, type HeldKind, type OpenFiles } from '../upload-store.ts'
import { LinkError, type Endpoint, type Source } from '../endpoint.ts'

export interface FileSource {
  readonly serial: string
  /** How its numbers and times are told. */
  readonly place: { readonly region: string; readonly zone: string }
  readonly kinds: Readonly<Partial<Record<string, HeldKind>>>
  /** An earlier version kept a calendar as it came. */
  readonly hasWholeCalendar: boolean
  open(kind: string): AsyncIterable<Buffer>
  readonly openFile: OpenFiles
}

/** Files that were brought as the old side: they can be read, and nothing else. */
export function fileEndpoint(file: FileSource): Endpoint {
  const source: Source = {
    count: async (kind) => {
      const held = heldOf(file, kind)
      return { items: held.items, bytes: held.sizeBytes, derived: 0, derivedOf: {}, revision: held.revision, also: {} }
    },
    list: (kind) => listRecords(file, kind),
    async *openFile(_, handle) {
      const bytes = await file.openFile(handle).catch(() => undefined)
      if (!bytes) throw new LinkError('NoSuchRecord')
      try {
        yield* bytes
      } catch {
        // it breaks off, or is not what its ZIP says: that one, and no other
        throw new LinkError('NoSuchRecord')
      }
    },
  }
  const { serial, place } = file
  return { body: null, attach: async () => ({ source, sink: null, place: async () => ({ serial, ...place, settleMs: 0 }) }) }
}

/** A kind the files do not hold is an empty one. */
function heldOf({ kinds }: FileSource, kind: string): HeldKind {
  return kinds[kind] ?? { items: 0, sizeBytes: 0, revision: 'none' }
}

async function* listRecords(file: FileSource, code: string): ReturnType<Source['list']> {
  const { items, revision } = heldOf(file, code)
  const kind = kindOf(code)
  if (items === 0 || !kind.archive) return { count: 0, revision }
  const tools = readTools(file.place, 0)
  let count = 0
  const recordOf = (record: Uint8Array) => {
    const read = kind.filesOf && kind.read(record, tools)
    const files = read?.ok ? kind.filesOf!(read.item).map(({ handle }) => handle) : []
    return {
      id: String(++count),
      revision: '1',
      storage: 'file',
      body: Buffer.from(record).toString('base64'),
      ...(files.length > 0 ? { files } : {}),
    }
  }
  try {
    for await (const record of file.hasWholeCalendar ? recordsAsCame(file, code) : recordsOf(file, code)) yield recordOf(record)
  } catch {
    throw new LinkError('LinkLost')
  }
  return { count, revision }
}

async function* recordsOf(file: FileSource, code: string): AsyncGenerator<Uint8Array> {
  const splitter = kindOf(code).archive!.splitter()
  for await (const chunk of file.open(code)) yield* splitter.push(chunk)
  yield* splitter.end()
}

/** As an earlier version kept them: cards one behind the other, a calendar whole. */
async function* recordsAsCame(file: FileSource, code: string): AsyncGenerator<Uint8Array> {
  if (kindOf(code).archive!.splitter === createCardSplitter) return yield* recordsOf(file, code)
  const text = await textOf(file.open(code))
  for (const item of splitCalendar(text).items()) yield Buffer.from(item, 'utf8')
}
