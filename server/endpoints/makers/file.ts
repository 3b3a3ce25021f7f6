import { calendarKind, isOfCards, type FileKind } from '#core/formats/files/sort.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { textOf, type HeldKind } from '../upload-store.ts'
import { LinkError, type Endpoint, type Source } from '../endpoint.ts'

export interface FileSource {
  readonly serial: string
  readonly region: string
  readonly kinds: Partial<Record<FileKind, HeldKind>>
  open(kind: FileKind): AsyncIterable<Buffer>
}

/** Dropped files as the old side: they can be read, and nothing else. */
export function fileEndpoint(file: FileSource): Endpoint {
  const source: Source = {
    count: async (kind) => {
      const held = heldOf(file, kind)
      return { items: held.items, bytes: held.sizeBytes, derived: 0, derivedOf: {}, revision: held.revision, also: {} }
    },
    list: (kind) => (kind === calendarKind ? listCalendar(file) : listCards(file, kind)),
    openFile: () => {
      throw new LinkError('NoSuchRecord')
    },
  }
  const { serial, region } = file
  return {
    body: null,
    attach: async () => ({ source, sink: null, place: async () => ({ serial, region, zone: 'Europe/London', settleMs: 0 }) }),
  }
}

/** A kind the file does not hold is an empty one. */
function heldOf({ kinds }: FileSource, kind: string): HeldKind {
  return kinds[kind as FileKind] ?? { items: 0, sizeBytes: 0, revision: 'none' }
}

const recordOf = (id: number, bytes: Uint8Array) => ({
  id: String(id),
  revision: '1',
  storage: 'file',
  body: Buffer.from(bytes).toString('base64'),
})

async function* listCalendar(file: FileSource): ReturnType<Source['list']> {
  const { items, revision } = heldOf(file, calendarKind)
  if (items === 0) return { count: 0, revision }
  const text = await textOf(file.open(calendarKind)).catch(() => {
    throw new LinkError('LinkLost')
  })
  let count = 0
  for (const item of splitCalendar(text).items()) yield recordOf(++count, Buffer.from(item, 'utf8'))
  return { count, revision }
}

async function* listCards(file: FileSource, kind: string): ReturnType<Source['list']> {
  const { items, revision } = heldOf(file, kind)
  if (!isOfCards(kind) || items === 0) return { count: 0, revision }
  const splitter = createCardSplitter()
  let count = 0
  try {
    for await (const chunk of file.open(kind)) for (const card of splitter.push(chunk)) yield recordOf(++count, card)
    for (const card of splitter.end()) yield recordOf(++count, card)
  } catch {
    throw new LinkError('LinkLost')
  }
  return { count, revision }
}
