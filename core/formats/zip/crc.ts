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

/** It begins with a local file header, or is an empty archive. */
export function isZip(head: Uint8Array): boolean {
  return head[0] === 0x50 && head[1] === 0x4b && ((head[2] === 3 && head[3] === 4) || (head[2] === 5 && head[3] === 6))
}
