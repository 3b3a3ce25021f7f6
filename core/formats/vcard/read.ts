import { binaryText, utf8Bytes } from '../../text/bytes.ts'
import { caps } from './grammar.ts'
import type { Property, ReadCard, VcardIssue } from './issue.ts'
import { createLineReader, type PhysicalLine } from './lex.ts'
import { readProperty } from './property.ts'

/** A content line that is being put together from its folded physical lines; joined once, at its end. */
interface HeldLine {
  readonly first: PhysicalLine
  /** Further lines, where there are any. */
  more: { text: string; binary: boolean }[] | undefined
  size: number
}

/**
 * Reads vCard 2.1, 3.0 and 4.0 from bytes that come in chunks, one card at a time, in flat memory.
 * Never throws on data: a card that can't be read is one result with `ok: false` and its reason.
 * `push` and `end` give the cards finished by then, in order; after `end` the reader is as new.
 */
export function createVcardReader() {
  const lines = createLineReader()
  let pending: HeldLine | undefined
  let open: { properties: Property[]; issues: VcardIssue[]; size: number; nested: number; line: number } | undefined
  let broken: VcardIssue['code'] | undefined
  let strayLine = 0
  let isOld = false

  function takeLine(physical: PhysicalLine, out: ReadCard[]): void {
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
      const first = text.charCodeAt(0)
      if (endsSoftly(pending) && !edge.test(text)) {
        hold(pending, text, physical.binary)
        return
      }
      if (first === 32 || first === 9) {
        // 2.1 folds at white space that belongs to the value; 3.0 and 4.0 insert one (RFC 2425 section 5.8.1)
        hold(pending, isOld && !isBase64(pending) ? text : text.slice(1), physical.binary)
        return
      }
      if (text !== '' && !text.includes(':') && isBase64(pending) && /^[A-Za-z0-9+/=]+$/.test(text)) {
        hold(pending, text, physical.binary)
        return
      }
      const whole = pending
      pending = undefined
      takeHeld(whole, out)
    }
    if (text !== '') pending = { first: physical, more: undefined, size: text.length }
  }

  function hold(held: HeldLine, text: string, binary: boolean) {
    held.size += text.length
    held.more ??= []
    if (held.size > caps.line) {
      broken ??= 'line-too-long'
      held.more.length = 0
    } else held.more.push({ text, binary })
  }

  function takeHeld(held: HeldLine, out: ReadCard[]): void {
    const { first, more } = held
    if (!more) {
      takeLogical(first.text, first.binary, first.number, out)
      return
    }
    // when some parts were bytes of no known charset, all become bytes
    const binary = first.binary || more.some((part) => part.binary)
    const isQuoted = quoted.test(first.text)
    const texts = [first, ...more].map((part, i, all) => {
      const text = binary && !part.binary ? binaryText(utf8Bytes(part.text)) : part.text
      return isQuoted && i < all.length - 1 && text.endsWith('=') ? text.slice(0, -1) : text
    })
    takeLogical(texts.join(''), binary, first.number, out)
  }

  function takeLogical(text: string, binary: boolean, line: number, out: ReadCard[]): void {
    const c = text.charCodeAt(0) | 32
    if (c === 98 && begin.test(text)) {
      if (open && open.nested === 0 && !isInsideAgent(open.properties)) {
        out.push(close('no-end'))
      } else if (open) {
        open.nested++
        open.issues.push({ code: 'nested-card', line, severity: 'lossy' })
        return
      }
      isOld = false
      open = { properties: [], issues: [], size: 0, nested: 0, line }
      return
    }
    if (c === 101 && end.test(text)) {
      if (!open) return
      if (open.nested > 0) open.nested--
      else out.push(close(undefined))
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
    const property = readProperty(text, { binary, line, issues: open.issues })
    if (!property) return
    open.properties.push(property)
    if (property.name === 'VERSION') isOld = property.value.trim() === '2.1'
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
    push(chunk: Uint8Array): ReadCard[] {
      const out: ReadCard[] = []
      for (const line of lines.push(chunk)) takeLine(line, out)
      return out
    },
    end(): ReadCard[] {
      const out: ReadCard[] = []
      for (const line of lines.end()) takeLine(line, out)
      if (pending) {
        const whole = pending
        pending = undefined
        takeHeld(whole, out)
      }
      if (open) out.push(close('no-end'))
      strayLine = 0
      broken = undefined
      return out
    },
  }
}

const begin = /^BEGIN:VCARD\s*$/i
const end = /^END:VCARD\s*$/i
const edge = /^(BEGIN|END):VCARD\s*$/i
const quoted = /^[^:]*QUOTED-PRINTABLE[^:]*:/i
const base64 = /^[^:]*[;=](BASE64|B)[;:]/i

/** A quoted-printable value goes on after a soft line break. */
function endsSoftly(held: HeldLine): boolean {
  const last = held.more?.at(-1)?.text ?? held.first.text
  return last.endsWith('=') && quoted.test(held.first.text)
}

function isBase64(held: HeldLine): boolean {
  return base64.test(held.first.text)
}

// made once: a reader is as new after its end, and making one a record costs as much as reading it
const oneRecord = createVcardReader()

/** Reads all cards of one piece of bytes, as the link gives one record. */
export function readVcards(bytes: Uint8Array): ReadCard[] {
  const cards = oneRecord.push(bytes)
  cards.push(...oneRecord.end())
  return cards
}

function versionOf(properties: readonly Property[]) {
  const version = properties.find((p) => p.name === 'VERSION')?.value.trim()
  return version === '2.1' || version === '3.0' || version === '4.0' ? version : undefined
}

function isInsideAgent(properties: readonly Property[]): boolean {
  const last = properties.at(-1)
  return last?.name === 'AGENT' && last.value.trim() === ''
}
