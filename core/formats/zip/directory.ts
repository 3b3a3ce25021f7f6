/** What the central directory says of one entry (APPNOTE 4.3.12). */
export interface Listed {
  readonly crc: number
  /** Undefined where it is in a ZIP64 field. Bytes. */
  readonly size: number | undefined
  readonly isEncrypted: boolean
  readonly isFolder: boolean
}

/** The longest directory that is looked at. Bytes. */
export const directoryBytes = 4_000_000

const endSignature = 0x06054b50
const entrySignature = 0x02014b50
const endLength = 22
const entryLength = 46

/**
 * Reads the directory from a file's last bytes.
 * @param tail all of a short file, of a longer one at least {@link directoryBytes}
 * @returns undefined where there is none, or what it says of itself can't be
 */
export function readDirectory(tail: Uint8Array): readonly Listed[] | undefined {
  const view = new DataView(tail.buffer, tail.byteOffset, tail.byteLength)
  // behind it stands a comment of 65,535 bytes at most
  for (let at = tail.length - endLength; at >= 0 && at > tail.length - endLength - 65_536; at--) {
    if (view.getUint32(at, true) !== endSignature) continue
    return entriesOf(view, at - view.getUint32(at + 12, true), view.getUint16(at + 10, true))
  }
  return undefined
}

function entriesOf(view: DataView, from: number, count: number): readonly Listed[] | undefined {
  const listed: Listed[] = []
  let at = from
  for (let i = 0; i < count; i++) {
    if (at < 0 || at + entryLength > view.byteLength || view.getUint32(at, true) !== entrySignature) return undefined
    const nameLength = view.getUint16(at + 28, true)
    const size = view.getUint32(at + 24, true)
    listed.push({
      isEncrypted: (view.getUint16(at + 8, true) & 1) === 1,
      crc: view.getUint32(at + 16, true),
      size: size === 0xffffffff ? undefined : size,
      isFolder: nameLength > 0 && view.getUint8(Math.min(view.byteLength - 1, at + entryLength + nameLength - 1)) === 0x2f,
    })
    at += entryLength + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true)
  }
  return listed
}

const table = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n
  for (let bit = 0; bit < 8; bit++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  return c
})

/** CRC-32 (ISO 3309) of bytes, going on from what came before. */
export function crc32(bytes: Uint8Array, before = 0): number {
  let c = ~before
  for (const byte of bytes) c = table[(c ^ byte) & 0xff]! ^ (c >>> 8)
  return ~c >>> 0
}

/** One byte further on the way of a CRC-32, without the turning at its ends: what the old lock of archives is made of. */
export function crcStep(before: number, byte: number): number {
  return (table[(before ^ byte) & 0xff]! ^ (before >>> 8)) >>> 0
}
