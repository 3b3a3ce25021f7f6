import { calendarKind, createFileSorter, fileKinds, isOfCards, type FileKind } from '#core/formats/files/sort.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { itemFromIcalendar } from '#core/kinds/calendar/from-icalendar.ts'
import { contacts } from '#core/kinds/contacts/index.ts'

/** What a file seems to hold, before it is taken in: counts alone, nothing of what it says. */
export interface Preview {
  readonly items: Partial<Record<FileKind, number>>
  readonly unreadable: number
  readonly others: number
  readonly readBytes: number
  readonly isDone: boolean
  readonly issue: string | null
}

const tools = { number: (text: string) => text, hash: () => '', instant: () => 0, nowMs: 0 }
const cardKind = fileKinds.find(isOfCards)!
const tell = (preview: Preview) => postMessage(preview)

async function look(file: Blob): Promise<void> {
  const items: Partial<Record<FileKind, number>> = {}
  let unreadable = 0
  let readBytes = 0
  const cards = createCardSplitter()
  const calendar: Uint8Array[] = []
  const card = (bytes: Uint8Array) => {
    items[cardKind] = (items[cardKind] ?? 0) + 1
    if (!contacts.read(bytes, tools).ok) unreadable++
  }
  const sorter = createFileSorter((kind, bytes) => {
    if (kind === calendarKind) calendar.push(bytes.slice())
    else for (const each of cards.push(bytes)) card(each)
  })
  const reader = file.stream().getReader()
  let issue: string | null = null
  let lastTold = 0
  for (;;) {
    const { done, value } = await reader.read()
    if (done) break
    readBytes += value.length
    issue = sorter.push(value) ?? null
    if (issue) break
    if (performance.now() - lastTold < 100) continue
    lastTold = performance.now()
    tell({ items, unreadable, others: 0, readBytes, isDone: false, issue: null })
  }
  const end = sorter.end()
  issue ??= end.issue ?? null
  for (const each of cards.end()) card(each)
  let { others } = end
  if (calendar.length > 0) {
    const cut = splitCalendar(await new Blob(calendar as BlobPart[]).text())
    items[calendarKind] = cut.count
    others += cut.others
    for (const item of cut.items()) if ('code' in itemFromIcalendar(new TextEncoder().encode(item), tools)) unreadable++
  }
  tell({ items, unreadable, others, readBytes, isDone: true, issue })
}

onmessage = (event: MessageEvent<Blob>) => {
  look(event.data).catch(() => tell({ items: {}, unreadable: 0, others: 0, readBytes: 0, isDone: true, issue: 'unreadable' }))
}
