import { binaryText, joinBytes, utf8Bytes, utf8Text } from '../../text/bytes.ts'
import { countWork } from '../../text/work.ts'
import { caps } from './grammar.ts'

/** A physical line; `binary` when the bytes around it were not UTF-8, so that a character is a byte. */
export interface PhysicalLine {
  readonly text: string
  readonly binary: boolean
  readonly number: number
  /** The line was longer than the cap and is cut. */
  readonly cut: boolean
}

const LF = 10
const CR = 13

/** Cuts bytes that come in chunks into lines at CRLF, LF or a stray CR; takes off a BOM; turns UTF-16 into UTF-8. */
export function createLineReader() {
  /** The beginning of a line whose end has not come, in pieces. */
  let rest: Uint8Array[] = []
  let restSize = 0
  /** The first bytes, until they tell the encoding. */
  let first: Uint8Array = new Uint8Array(0)
  let wide: TextDecoder | undefined
  let started = false
  let number = 0
  let overlong = false
  let endedByCr = false

  function cut(bytes: Uint8Array, out: PhysicalLine[]): void {
    const text = utf8Text(bytes)
    const binary = text === undefined
    const whole = text ?? binaryText(bytes)
    let from = 0
    if (endedByCr && whole.startsWith('\n')) from = 1
    endedByCr = whole.endsWith('\r')
    const hasCr = whole.includes('\r')
    while (from < whole.length) {
      let to = whole.indexOf('\n', from)
      if (to < 0) to = whole.length
      const isCrLf = hasCr && to > from && whole.charCodeAt(to - 1) === CR
      let last = isCrLf ? to - 1 : to
      // CR CR LF is one line end: a file that went through two hands
      while (isCrLf && last > from && whole.charCodeAt(last - 1) === CR) last--
      const line = whole.slice(from, last)
      from = to + 1
      if (hasCr && line.includes('\r')) {
        for (const piece of line.split('\r')) out.push({ text: piece, binary, number: ++number, cut: false })
      } else out.push({ text: line, binary, number: ++number, cut: false })
    }
  }

  function take(bytes: Uint8Array, isLast: boolean): PhysicalLine[] {
    const out: PhysicalLine[] = []
    let input = bytes
    countWork(bytes.length)
    if (overlong) {
      const end = lineEnd(input, 0)
      if (end < 0) return out
      overlong = false
      input = input.subarray(end + 1)
    }
    const end = isLast ? input.length - 1 : lastLineEnd(input)
    // what is kept holds no line end: only what is new is looked at, and joined once
    if (end >= 0 || (isLast && restSize > 0)) {
      cut(joinBytes([...rest, input.subarray(0, end + 1)]), out)
      rest = []
      restSize = 0
    }
    if (end + 1 < input.length) {
      rest.push(input.slice(end + 1))
      restSize += input.length - end - 1
    }
    if (restSize > caps.line) {
      overlong = true
      rest = []
      restSize = 0
      out.push({ text: '', binary: false, number: ++number, cut: true })
    }
    return out
  }

  /** The lines that are whole by now. */
  function push(chunk: Uint8Array, isLast = false): PhysicalLine[] {
    if (!started) {
      const head = joinBytes([first, chunk])
      if (head.length < 4 && !isLast) {
        first = head.slice()
        return []
      }
      started = true
      first = new Uint8Array(0)
      const wideLabel = utf16Label(head)
      if (wideLabel) wide = new TextDecoder(wideLabel)
      chunk = !wide && head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf ? head.subarray(3) : head
    }
    return take(wide ? utf8Bytes(wide.decode(chunk, { stream: !isLast })) : chunk, isLast)
  }

  /** Ends the input; the reader is as new afterwards. */
  function end(): PhysicalLine[] {
    const out = push(new Uint8Array(0), true)
    rest = []
    restSize = 0
    first = new Uint8Array(0)
    wide = undefined
    started = false
    overlong = false
    endedByCr = false
    number = 0
    return out
  }

  return { push, end }
}

/** By its mark (BOM), or by the zero beside the first letter of BEGIN. */
function utf16Label(head: Uint8Array): string | undefined {
  if (head[0] === 0xff && head[1] === 0xfe) return 'utf-16le'
  if (head[0] === 0xfe && head[1] === 0xff) return 'utf-16be'
  if (head[0] === 0x42 && head[1] === 0) return 'utf-16le'
  if (head[0] === 0 && head[1] === 0x42) return 'utf-16be'
  return undefined
}

function lineEnd(bytes: Uint8Array, from: number): number {
  const lf = bytes.indexOf(LF, from)
  const cr = bytes.indexOf(CR, from)
  return lf < 0 ? cr : cr < 0 ? lf : Math.min(lf, cr)
}

function lastLineEnd(bytes: Uint8Array): number {
  return Math.max(bytes.lastIndexOf(LF), bytes.lastIndexOf(CR))
}
