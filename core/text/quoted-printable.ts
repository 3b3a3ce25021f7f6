/**
 * Quoted-printable (RFC 2045 section 6.7) to bytes. Soft line breaks were removed by the line reader.
 * A damaged escape stays as the characters it is; `damaged` counts them.
 * @param text one character for each byte, or already decoded text, whose characters above 0xFF are taken as UTF-8
 */
export function quotedPrintableBytes(text: string): { bytes: Uint8Array; damaged: number } {
  const bytes: number[] = []
  let damaged = 0
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    if (code !== 61) {
      if (code < 0x80) bytes.push(code)
      else {
        const point = text.codePointAt(i)!
        if (point > 0xffff) i++
        for (const byte of new TextEncoder().encode(String.fromCodePoint(point))) bytes.push(byte)
      }
      continue
    }
    const value = Number.parseInt(text.slice(i + 1, i + 3), 16)
    if (/^[0-9a-fA-F]{2}$/.test(text.slice(i + 1, i + 3))) {
      bytes.push(value)
      i += 2
    } else if (i === text.length - 1) {
      // a soft break whose next line never came
      damaged++
    } else {
      damaged++
      bytes.push(code)
    }
  }
  return { bytes: Uint8Array.from(bytes), damaged }
}

/**
 * Bytes to quoted-printable with soft line breaks, so that no line is longer than 76 characters.
 * @param firstUsed characters already on the first line (the property's head)
 */
export function quotedPrintableText(bytes: Uint8Array, firstUsed: number): string {
  let out = ''
  let used = firstUsed
  bytes.forEach((byte, i) => {
    const plain = byte >= 33 && byte <= 126 && byte !== 61
    const space = byte === 32 && i < bytes.length - 1
    const piece = plain || space ? String.fromCharCode(byte) : '=' + byte.toString(16).toUpperCase().padStart(2, '0')
    if (used + piece.length > 75) {
      out += '=\r\n'
      used = 0
    }
    out += piece
    used += piece.length
  })
  return out
}
