const tinyJpeg =
  '/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////wgALCAABAAEBAREA/8QAFBABAAAAAAAAAAAAAAAAAAAAAP/aAAgBAQABPxA='

/** A repeatable stream of numbers from 0 to 1 (mulberry32). */
export function numbers(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** A picture whose bytes differ by its number; `padding` bytes make it large. */
export function picture(number: number, padding = 0): string {
  const jpeg = Buffer.from(tinyJpeg, 'base64')
  const parts = [jpeg.subarray(0, 2)]
  for (let left = padding + 8; left > 0; left -= 60_000) {
    const comment = Buffer.alloc(Math.min(left, 60_000), String(number).padStart(8, '0'))
    const head = Buffer.from([0xff, 0xfe, 0, 0])
    head.writeUInt16BE(comment.length + 2, 2)
    parts.push(head, comment)
  }
  return Buffer.concat([...parts, jpeg.subarray(2)]).toString('base64')
}
