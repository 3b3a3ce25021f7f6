import { binaryText, utf8Bytes } from '../../text/bytes.ts'
import { caps } from './grammar.ts'
import type { Property, ReadCard, VcardIssue } from './issue.ts'
import { createLineReader, type PhysicalLine } from './lex.ts'
import { readProperty } from './property.ts'

/** A content line that is being put together from its folded physical lines; joined once, at its end. */
interface HeldLine {
  readonly parts: { text: string; binary: boolean }[]
  readonly line: number
  readonly isQuoted: boolean
  readonly isBase64: boolean
  size: number
}

interface LogicalLine {
  readonly text: string
  readonly binary: boolean
  readonly line: number
}

/**
 * Reads vCard 2.1, 3.0 and 4.0 from bytes that come in chunks, one card at a time, in flat memory.
 * Never throws on data: a card that can't be read is one result with `ok: false` and its reason.
 * `push` and `end` yield the cards finished by then, in order.
 */
export function createVcardReader() {
  const lines = createLineReader()
  let pending: HeldLine | undefined
  let open: { properties: Property[]; issues: VcardIssue[]; size: number; nested: number; line: number } | undefined
  let broken: VcardIssue['code'] | undefined
  let strayLine = 0
  let isOld = false

  function* takeLine(physical: PhysicalLine): Generator<ReadCard> {
    if (physical.cut) {
      if (open) {
        broken ??= 'line-too-long'
        open.issues.push({ code: 'line-too-long', line: physical.number, severity: 'lossy' })
      }
      pending = undefined
      return
    }
    const { text } = physical
    if (pending) {
      const last = pending.parts.at(-1)!
      if (pending.isQuoted && last.text.endsWith('=') && !/^(BEGIN|END):VCARD\s*$/i.test(text)) {
        last.text = last.text.slice(0, -1)
        hold(pending, text, physical.binary)
        return
      }
      const first = text.charCodeAt(0)
      if (first === 32 || first === 9) {
        // 2.1 folds at white space that belongs to the value; 3.0 and 4.0 insert one (RFC 2425 section 5.8.1)
        hold(pending, isOld && !pending.isBase64 ? text : text.slice(1), physical.binary)
        return
      }
      if (pending.isBase64 && text !== '' && /^[A-Za-z0-9+/=]+$/.test(text)) {
        hold(pending, text, physical.binary)
        return
      }
      const whole = pending
      pending = undefined
      yield* takeLogical(joined(whole))
    }
    if (text === '') return
    pending = {
      parts: [{ text, binary: physical.binary }],
      line: physical.number,
      isQuoted: /^[^:]*QUOTED-PRINTABLE[^:]*:/i.test(text),
      isBase64: /^[^:]*[;=](BASE64|B)[;:]/i.test(text),
      size: text.length,
    }
  }

  function hold(held: HeldLine, text: string, binary: boolean) {
    held.size += text.length
    if (held.size > caps.line) {
      broken ??= 'line-too-long'
      held.parts.length = 1
    } else held.parts.push({ text, binary })
  }

  function* takeLogical(logical: LogicalLine): Generator<ReadCard> {
    const { text, line } = logical
    const c = text.charCodeAt(0) | 32
    if (c === 98 && /^BEGIN:VCARD\s*$/i.test(text)) {
      if (open && open.nested === 0 && !isInsideAgent(open.properties)) {
        yield close('no-end')
      } else if (open) {
        open.nested++
        open.issues.push({ code: 'nested-card', line, severity: 'lossy' })
        return
      }
      isOld = false
      open = { properties: [], issues: [], size: 0, nested: 0, line }
      return
    }
    if (c === 101 && /^END:VCARD\s*$/i.test(text)) {
      if (!open) return
      if (open.nested > 0) open.nested--
      else yield close(undefined)
      return
    }
    if (!open) {
      if (strayLine === 0 && text.trim() !== '') strayLine = line
      return
    }
    if (open.nested > 0) return
    open.size += text.length
    if (open.size > caps.card) {
      broken ??= 'card-too-large'
      open.properties = []
      return
    }
    if (broken) return
    const property = readProperty(text, { binary: logical.binary, line, issues: open.issues })
    if (property) open.properties.push(property)
    if (property?.name === 'VERSION') isOld = property.value.trim() === '2.1'
  }

  function close(code: VcardIssue['code'] | undefined): ReadCard {
    const { properties, issues, line } = open!
    const reason = broken ?? code
    open = undefined
    broken = undefined
    if (strayLine > 0) issues.push({ code: 'stray-text', line: strayLine, severity: 'harmless' })
    strayLine = 0
    if (reason) return { ok: false, code: reason, issues: [...issues, { code: reason, line, severity: 'lossy' }] }
    const version = versionOf(properties)
    if (!version) issues.push({ code: 'no-version', line, severity: 'harmless' })
    if (!properties.some((p) => p.name !== 'VERSION')) {
      return { ok: false, code: 'empty-card', issues: [...issues, { code: 'empty-card', line, severity: 'lossy' }] }
    }
    return { ok: true, card: { version, properties }, issues }
  }

  return {
    *push(chunk: Uint8Array): Generator<ReadCard> {
      for (const line of lines.push(chunk)) yield* takeLine(line)
    },
    *end(): Generator<ReadCard> {
      for (const line of lines.end()) yield* takeLine(line)
      if (pending) {
        const whole = pending
        pending = undefined
        yield* takeLogical(joined(whole))
      }
      if (open) yield close('no-end')
    },
  }
}

/** Reads all cards of one piece of bytes, as the link gives one record. */
export function readVcards(bytes: Uint8Array): ReadCard[] {
  const reader = createVcardReader()
  return [...reader.push(bytes), ...reader.end()]
}

function versionOf(properties: readonly Property[]) {
  const version = properties.find((p) => p.name === 'VERSION')?.value.trim()
  return version === '2.1' || version === '3.0' || version === '4.0' ? version : undefined
}

function isInsideAgent(properties: readonly Property[]): boolean {
  const last = properties.at(-1)
  return last?.name === 'AGENT' && last.value.trim() === ''
}

/** One text of all parts; when some were bytes of no known charset, all become bytes. */
function joined({ parts, line }: HeldLine): LogicalLine {
  if (parts.length === 1) return { ...parts[0]!, line }
  const binary = parts.some((part) => part.binary)
  const texts = parts.map((part) => (binary && !part.binary ? toBinary(part.text) : part.text))
  return { text: texts.join(''), binary, line }
}

function toBinary(text: string): string {
  return binaryText(utf8Bytes(text))
}
