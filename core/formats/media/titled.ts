import { binaryBytes, binaryText, joinBytes, utf8Bytes } from '../../text/bytes.ts'
import { numberAt } from '../looking.ts'

/** What is written into a sound: what it is called, and when it was made, in milliseconds since 1970. */
export interface Title {
  readonly title: string
  readonly atMs: number | null
}

/** Changes bytes as they stream by. */
export interface Rewriter {
  push(chunk: Uint8Array): Uint8Array
  /** What stands at its end; undefined where the file could not hold it after all, and is to go as it is. */
  end(): Uint8Array | undefined
}

/** An index that is longer is no recording's. */
export const mostIndexBytes = 8_388_608

/**
 * Writes title and date into a sound while it streams by, its sound as it was: as tags of an MP4 file (ISO/IEC 14496-12,
 * `udta`), as ID3v2.4 in front of MPEG audio, and as that and as `INAM` and `ICRD` behind the sound of a WAV file.
 * @param sizeBytes of the whole file
 * A type that holds neither goes as it is.
 */
export function createTitleWriter(type: string, title: Title, sizeBytes: number): Rewriter {
  // a recorder's 3GP is made of the same boxes (3GPP TS 26.244)
  if (type === 'audio/mp4' || type === 'video/3gpp') return inMp4(title, sizeBytes)
  if (type === 'audio/wav') return inWav(title, sizeBytes)
  if (type === 'audio/mpeg') return inMpeg(title)
  return { push: (chunk) => chunk, end: () => undefined }
}

const dayOf = ({ atMs }: Title) => (atMs === null ? '' : new Date(atMs).toISOString().slice(0, 10))
const timeOf = ({ atMs }: Title) => (atMs === null ? '' : new Date(atMs).toISOString().replace(/\.\d+Z$/, 'Z'))

// MP4: an index that stands last is written anew; one that stands before what it points to becomes free space, and the
// new one stands at the end, since whatever it points to must not move

function inMp4(title: Title, sizeBytes: number): Rewriter {
  let at = 0
  let head: Uint8Array = new Uint8Array()
  let [left, isIndex] = [0, false]
  let index: Uint8Array[] = []
  let added: Uint8Array | undefined
  let canHold = true

  /** What goes out of the box that ends here. */
  function endOfBox(): Uint8Array {
    if (!isIndex) return new Uint8Array()
    isIndex = false
    const box = joinBytes(index)
    index = []
    const made = added === undefined ? withTitle(box, title) : undefined
    if (!made) {
      canHold = false
      return box
    }
    if (at === sizeBytes) {
      added = new Uint8Array()
      return made
    }
    added = made
    return joinBytes([box.subarray(0, 4), binaryBytes('free'), box.subarray(8)])
  }

  function begin(): boolean {
    if (head.length < 8) return false
    const isLong = numberAt(head, 0, 4) === 1
    if (isLong && head.length < 16) return false
    const size = isLong ? numberAt(head, 8, 8) : numberAt(head, 0, 4)
    const type = binaryText(head.subarray(4, 8))
    // one that goes on to the end leaves no end to write at; pieces find their index by where they stand
    const isKnown = size >= (isLong ? 16 : 8) && type !== 'moof' && type !== 'sidx'
    if (!isKnown) canHold = false
    left = isKnown ? size : Number.POSITIVE_INFINITY
    isIndex = isKnown && type === 'moov' && !isLong && size <= mostIndexBytes
    if (type === 'moov' && !isIndex) canHold = false
    return true
  }

  function take(piece: Uint8Array, out: Uint8Array[]): void {
    left -= piece.length
    at += piece.length
    if (isIndex) index.push(piece)
    else out.push(piece)
    if (left === 0) out.push(endOfBox())
  }

  return {
    push(chunk) {
      const out: Uint8Array[] = []
      let rest = chunk
      while (rest.length > 0) {
        if (left === 0) {
          // so little is taken as the head of a box needs
          const wanted = (head.length >= 8 ? 16 : 8) - head.length
          head = joinBytes([head, rest.subarray(0, wanted)])
          rest = rest.subarray(wanted)
          if (!begin()) continue
          take(head, out)
          head = new Uint8Array()
          continue
        }
        const piece = rest.subarray(0, Math.min(left, rest.length))
        rest = rest.subarray(piece.length)
        take(piece, out)
      }
      return joinBytes(out)
    },
    end() {
      // cut in the middle of a box, or without an index
      if (!canHold || left > 0 || head.length > 0 || added === undefined) return undefined
      return added
    },
  }
}

interface Box {
  readonly type: string
  readonly whole: Uint8Array
}

/** Boxes that stand one behind the other; undefined where they lie. */
function boxesIn(bytes: Uint8Array): Box[] | undefined {
  const out: Box[] = []
  let at = 0
  // a reader of old leaves four noughts behind the last
  while (at + 8 <= bytes.length) {
    const size = numberAt(bytes, at, 4)
    if (size < 8 || at + size > bytes.length) return undefined
    out.push({ type: binaryText(bytes.subarray(at + 4, at + 8)), whole: bytes.subarray(at, at + size) })
    at += size
  }
  return bytes.length - at < 8 && bytes.subarray(at).every((byte) => byte === 0) ? out : undefined
}

function numberBytes(n: number, length: number, isLittle = false): Uint8Array {
  const out = new Uint8Array(length)
  for (let i = 0; i < length; i++) out[isLittle ? i : length - 1 - i] = Math.floor(n / 256 ** i) & 255
  return out
}
const boxOf = (type: string, ...content: readonly Uint8Array[]): Uint8Array => {
  const body = joinBytes(content)
  return joinBytes([numberBytes(body.length + 8, 4), binaryBytes(type), body])
}
const wholes = (boxes: readonly Box[]) => joinBytes(boxes.map(({ whole }) => whole))

/** The index with title and date among its tags; undefined where its tags are of another program's making. */
function withTitle(moov: Uint8Array, title: Title): Uint8Array | undefined {
  const inside = boxesIn(moov.subarray(8))
  if (!inside) return undefined
  const said = inside.filter(({ type }) => type === 'udta')
  const around = said.length > 1 ? undefined : boxesIn(said[0]?.whole.subarray(8) ?? new Uint8Array())
  const meta = around?.filter(({ type }) => type === 'meta')
  if (!around || !meta || meta.length > 1) return undefined
  // a full box, its handler, and the list
  const parts = meta[0] ? boxesIn(meta[0].whole.subarray(12)) : []
  if (!parts) return undefined
  const handler = parts.find(({ type }) => type === 'hdlr')
  if (meta[0] && (!handler || binaryText(handler.whole.subarray(16, 20)) !== 'mdir')) return undefined
  const tags = boxesIn(parts.find(({ type }) => type === 'ilst')?.whole.subarray(8) ?? new Uint8Array())
  if (!tags) return undefined
  const tag = (type: string, text: string) =>
    text ? [boxOf(type, boxOf('data', numberBytes(1, 4), numberBytes(0, 4), utf8Bytes(text)))] : []
  const list = boxOf(
    'ilst',
    ...tag('\u00a9nam', title.title),
    ...tag('\u00a9day', timeOf(title)),
    wholes(tags.filter(({ type }) => type !== '\u00a9nam' && type !== '\u00a9day')),
  )
  const newHandler = boxOf('hdlr', numberBytes(0, 8), binaryBytes('mdirappl'), numberBytes(0, 9))
  const others = parts.filter(({ type }) => type !== 'hdlr' && type !== 'ilst')
  const newMeta = boxOf('meta', numberBytes(0, 4), handler?.whole ?? newHandler, list, wholes(others))
  const newSaid = boxOf('udta', wholes(around.filter(({ type }) => type !== 'meta')), newMeta)
  return boxOf('moov', wholes(inside.filter(({ type }) => type !== 'udta')), newSaid)
}

// WAV: chunks, of which one more stands at the end; only the length in front is another

function inWav(title: Title, sizeBytes: number): Rewriter {
  const text = (name: string, value: string) => (value ? chunkOf(name, joinBytes([utf8Bytes(value), new Uint8Array(1)])) : new Uint8Array())
  // nobody says in which signs that list is written: what is more than ASCII stands in the tag alone
  const plain = /^[\x20-\x7e]*$/.test(title.title) ? title.title : ''
  const list = chunkOf('LIST', joinBytes([binaryBytes('INFO'), text('INAM', plain), text('ICRD', dayOf(title))]))
  // chunks begin at even places
  const tail = joinBytes([new Uint8Array(sizeBytes % 2), list, chunkOf('id3 ', tagOf(title))])
  const canHold = sizeBytes + tail.length < 0xffffffff
  let at = 0
  let isWhole = true
  return {
    push(chunk) {
      if (!canHold || at >= 8) {
        at += chunk.length
        return chunk
      }
      const out = Uint8Array.from(chunk)
      const [was, is] = [numberBytes(sizeBytes - 8, 4, true), numberBytes(sizeBytes - 8 + tail.length, 4, true)]
      for (let i = 0; i < out.length && at + i < 8; i++) {
        const place = at + i - 4
        if (place < 0) continue
        if (out[i] !== was[place]) isWhole = false
        out[i] = is[place]!
      }
      at += chunk.length
      return out
    },
    end: () => (canHold && isWhole && at === sizeBytes ? tail : undefined),
  }
}

function chunkOf(name: string, body: Uint8Array): Uint8Array {
  return joinBytes([binaryBytes(name), numberBytes(body.length, 4, true), body, new Uint8Array(body.length % 2)])
}

// MPEG audio: a tag stands in front (ID3v2.4, sections 3.1 and 4); one that is there already is somebody's

/** Title and date as a tag of its own, in UTF-8. */
function tagOf(title: Title): Uint8Array {
  const sevenBits = (n: number) => Uint8Array.from([21, 14, 7, 0].map((shift) => (n >> shift) & 127))
  const frame = (name: string, text: string) => {
    const body = joinBytes([Uint8Array.of(3), utf8Bytes(text)])
    return text ? joinBytes([binaryBytes(name), sevenBits(body.length), new Uint8Array(2), body]) : new Uint8Array()
  }
  const frames = joinBytes([frame('TIT2', title.title), frame('TDRC', timeOf(title).replace(/Z$/, ''))])
  return joinBytes([binaryBytes('ID3'), Uint8Array.of(4, 0, 0), sevenBits(frames.length), frames])
}

function inMpeg(title: Title): Rewriter {
  const tag = tagOf(title)
  let start: Uint8Array | undefined = new Uint8Array()
  let canHold = true
  return {
    push(chunk) {
      if (!start) return chunk
      const bytes = joinBytes([start, chunk])
      start = bytes
      if (bytes.length < 3) return new Uint8Array()
      start = undefined
      canHold = binaryText(bytes.subarray(0, 3)) !== 'ID3'
      return canHold ? joinBytes([tag, bytes]) : bytes
    },
    end: () => (canHold && !start ? new Uint8Array() : undefined),
  }
}
