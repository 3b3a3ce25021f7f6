import { calendarKind, createFileSorter, type FileKind } from '#core/formats/files/sort.ts'
import { splitCalendar } from '#core/formats/icalendar/split.ts'
import { blobsOf, readBlob } from '../vault/blobs.ts'
import { keysFrom } from '../vault/keys.ts'
import { rawName, textOf, writeKind, type HeldKind, type KindWriter, type Sorted, type SortTask } from './upload-store.ts'

/** Takes a sealed upload apart into one sealed blob a kind. It runs in a thread: whatever a file holds, pages go on being answered. */
export async function sortUpload(task: SortTask): Promise<Sorted> {
  const { id, mostCalendarBytes } = task
  const keys = keysFrom(Buffer.from(task.secret))
  const store = blobsOf(task)
  const opened = (name: string) => readBlob(keys, store, { holding: id, name })
  const parts = new Map<FileKind, KindWriter>()
  let full: Promise<unknown> | undefined
  const sorter = createFileSorter((kind, bytes) => {
    let part = parts.get(kind)
    if (!part) parts.set(kind, (part = writeKind(keys, store, { holding: id, kind })))
    const drained = part.write(bytes)
    if (drained) full = full ? Promise.all([full, drained]) : drained
  })
  const refuse = async (problem: Extract<Sorted, { problem: unknown }>['problem']): Promise<Sorted> => {
    await Promise.allSettled([...parts.values()].map((part) => part.drop()))
    return { problem }
  }
  for await (const chunk of opened(rawName)) {
    const issue = sorter.push(chunk)
    if (issue) return refuse(issue === 'zip-too-large' || issue === 'zip-too-many-entries' ? 'FileTooLarge' : 'ZipRefused')
    await full
    full = undefined
  }
  const { others, issue } = sorter.end()
  if (issue) return refuse(issue === 'zip-encrypted' ? 'ZipLocked' : 'ZipRefused')
  const kinds: Partial<Record<FileKind, HeldKind>> = {}
  let left = 0
  for (const [kind, part] of parts) kinds[kind] = await part.end()
  const held = kinds[calendarKind]
  if (held) {
    if (held.sizeBytes > mostCalendarBytes) return { problem: 'FileTooLarge' }
    const calendar = splitCalendar(await textOf(opened(calendarKind)))
    kinds[calendarKind] = { ...held, items: calendar.count }
    left = calendar.others
  }
  if (Object.values(kinds).every((kind) => kind!.items === 0)) return { problem: 'FileUnreadable' }
  return { kinds, others: others + left }
}
