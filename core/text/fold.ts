/** Folds a content line at 75 octets without cutting a character (RFC 2425 section 5.8.1, RFC 5545 section 3.1). */
export function foldLine(line: string): string {
  const out: string[] = []
  if (/^[\x00-\x7f]*$/.test(line)) {
    if (line.length <= 75) return line
    // a picture's line is thousands of pieces: each character is an octet
    for (let at = 0; at < line.length; at += 74) out.push(line.slice(at, at + 74))
    return out.join('\r\n ')
  }
  let piece = ''
  let octets = 0
  for (const character of line) {
    const point = character.codePointAt(0)!
    const width = point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4
    if (octets + width > 74) {
      out.push(piece)
      piece = ''
      octets = 0
    }
    piece += character
    octets += width
  }
  out.push(piece)
  return out.join('\r\n ')
}
