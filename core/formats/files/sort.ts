import { faces } from '../../kinds/faces.ts'
import { createZipReader, isZip, type ZipIssue } from '../zip/read.ts'

/** A kind that comes as files, by its code. */
export type FileKind = string
/** Kinds that come as files, by what such a file begins with. */
const kindByBegin = new Map(faces.flatMap(({ code, begins }) => (begins ? [[begins as string, code]] : [])))
export const fileKinds: readonly FileKind[] = [...kindByBegin.values()]

/** Whether files of a kind are vCards, one behind the other; all others are one calendar (RFC 5545) each. */
export const isOfCards = (kind: FileKind): boolean => kind === kindByBegin.get('VCARD')
/** The kind whose files are calendars. */
export const calendarKind: FileKind = kindByBegin.get('VCALENDAR')!

const headBytes = 512
const lineEnd = Uint8Array.of(13, 10)

/**
 * Sorts a file by what it says at its beginning, never by its name: vCards, a calendar, or a ZIP whose files are
 * sorted the same way. A ZIP in a ZIP, and whatever is neither, is passed over and counted.
 * @param take gets the bytes of each kind as they come; files of one kind follow each other, each from a new line
 */
export function createFileSorter(take: (kind: FileKind, bytes: Uint8Array) => void) {
  let others = 0
  const started = new Set<FileKind>()
  /** What takes one plain file. */
  function openPlain() {
    let head: Uint8Array = new Uint8Array(0)
    let kind: FileKind | 'other' | undefined
    return (chunk: Uint8Array, isLast: boolean) => {
      let bytes = chunk
      if (kind === undefined) {
        const both = new Uint8Array(head.length + chunk.length)
        both.set(head)
        both.set(chunk, head.length)
        head = both
        if (head.length < headBytes && !isLast) return
        kind = kindOfHead(head)
        bytes = head
        if (kind === 'other') others++
        else if (started.has(kind)) take(kind, lineEnd)
        else started.add(kind)
      }
      if (kind !== 'other' && bytes.length > 0) take(kind, bytes)
    }
  }
  let first: Uint8Array = new Uint8Array(0)
  let plain: ReturnType<typeof openPlain> | undefined
  let zip: ReturnType<typeof createZipReader> | undefined
  const feed = (chunk: Uint8Array): ZipIssue | undefined => {
    if (plain) return void plain(chunk, false)
    if (zip) return zip.push(chunk)
    const both = new Uint8Array(first.length + chunk.length)
    both.set(first)
    both.set(chunk, first.length)
    if (both.length < 4) {
      first = both
      return undefined
    }
    if (isZip(both)) zip = createZipReader(openPlain)
    else plain = openPlain()
    return feed(both)
  }
  return {
    /** Answers with what ended it, if anything did. */
    push: feed,
    end(): { others: number; issue: ZipIssue | undefined } {
      const end = zip?.end()
      if (!zip) (plain ?? openPlain())(plain ? new Uint8Array(0) : first, true)
      return { others, issue: end?.issue }
    },
  }
}

function kindOfHead(head: Uint8Array): FileKind | 'other' {
  const text = new TextDecoder('latin1')
    .decode(head)
    // UTF-16, with its mark or without: every other byte is nothing
    .replaceAll('\0', '')
    .replace(/^(\u00ef\u00bb\u00bf|\u00ff\u00fe|\u00fe\u00ff)/, '')
    .trimStart()
  const begin = /^BEGIN:([A-Z]+)\s*$/im.exec(text)
  return kindByBegin.get(begin?.[1]?.toUpperCase() ?? '') ?? 'other'
}
