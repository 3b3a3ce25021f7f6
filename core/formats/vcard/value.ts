/** Cuts a value at unescaped separators and undoes the escapes of its version (RFC 6350 section 3.4; 2.1 knows only `\;`). */
export function splitValue(value: string, separator: ';' | ',', isOld: boolean): string[] {
  if (!value.includes('\\')) return value.split(separator)
  const parts: string[] = []
  let part = ''
  for (let i = 0; i < value.length; i++) {
    const c = value[i]!
    if (c === '\\' && i + 1 < value.length) {
      part += unescapeOne(value[++i]!, isOld)
    } else if (c === separator) {
      parts.push(part)
      part = ''
    } else part += c
  }
  parts.push(part)
  return parts
}

export function unescapeValue(value: string, isOld: boolean): string {
  return value.includes('\\') ? value.replace(/\\([\s\S])/g, (_, c: string) => unescapeOne(c, isOld)) : value
}

function unescapeOne(c: string, isOld: boolean): string {
  if (c === ';' || c === ',' || c === ':' || c === '\\') return c
  if (!isOld && (c === 'n' || c === 'N')) return '\n'
  return '\\' + c
}

/** Escapes one part of a value for 3.0 and 4.0. */
export function escapeValue(value: string): string {
  return value.replace(/[\\;,]/g, '\\$&').replace(/\r\n|\r|\n/g, '\\n')
}

/** Escapes one part of a structured value for 2.1; line breaks are left to quoted-printable. */
export function escapeOldPart(value: string, separator: ';' | ','): string {
  return value.replace(/\\/g, '\\\\').replaceAll(separator, `\\${separator}`)
}

/** A text of 2.1 keeps its separators bare; only a backslash that would be read as an escape is doubled. */
export function escapeOldText(value: string): string {
  return value.replace(/\\(?=[\\;,:]|$)/g, '\\\\')
}
