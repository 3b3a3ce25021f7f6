import { binaryBytes, binaryText, utf8Bytes } from '../../text/bytes.ts'
import { caps } from './grammar.ts'
import { createLineReader } from './lex.ts'

/**
 * Cuts a file into the bytes of its cards without reading them, so that each is one record of a phone link.
 * A card without its end is given as far as it goes; text between cards is left out and counted.
 */
export function createCardSplitter() {
  const lines = createLineReader()
  let parts: string[] = []
  let depth = 0
  let binary = false
  let size = 0
  let stray = 0

  function close(): Uint8Array {
    const text = parts.join('\r\n') + '\r\n'
    const bytes = binary ? binaryBytes(text) : utf8Bytes(text)
    parts = []
    depth = 0
    binary = false
    size = 0
    return bytes
  }

  function add(text: string, isBinary: boolean) {
    size += text.length
    // past the cap the rest of the card is dropped; the reader then says that it has no end
    if (size > caps.card) return
    if (isBinary !== binary && parts.length > 0) {
      if (!binary) parts = parts.map((part) => binaryText(utf8Bytes(part)))
      binary = true
    } else if (parts.length === 0) binary = isBinary
    parts.push(binary && !isBinary ? binaryText(utf8Bytes(text)) : text)
  }

  function* take(source: readonly { text: string; binary: boolean }[]): Generator<Uint8Array> {
    for (const { text, binary: isBinary } of source) {
      const c = text.charCodeAt(0) | 32
      const begins = c === 98 && /^BEGIN:VCARD\s*$/i.test(text)
      if (depth === 0 && !begins) {
        if (text.trim() !== '') stray++
        continue
      }
      if (begins && depth > 0 && !/^AGENT[^:]*:\s*$/i.test(parts.at(-1) ?? '')) yield close()
      add(text, isBinary)
      if (begins) depth++
      else if (c === 101 && /^END:VCARD\s*$/i.test(text) && --depth === 0) yield close()
    }
  }

  return {
    push: (chunk: Uint8Array) => take(lines.push(chunk)),
    *end(): Generator<Uint8Array> {
      yield* take(lines.end())
      if (parts.length > 0) yield close()
    },
    /** Lines that stood outside any card. */
    strayLines: () => stray,
  }
}
