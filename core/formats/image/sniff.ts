import { binaryText } from '../../text/bytes.ts'

/** What a file is by its first bytes, whatever it is called; undefined when they are of none we know. */
export function sniffType(head: Uint8Array): string | undefined {
  const text = binaryText(head.subarray(0, 16))
  // JPEG: SOI and the first marker (ITU-T T.81, annex B)
  if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return 'image/jpeg'
  if (text.startsWith('\x89PNG\r\n\x1a\n')) return 'image/png'
  if (/^GIF8[79]a/.test(text)) return 'image/gif'
  if (text.startsWith('RIFF') && text.slice(8, 12) === 'WEBP') return 'image/webp'
  // ISO base media (ISO/IEC 14496-12 section 4.3): the major brand tells pictures from films
  if (text.slice(4, 8) === 'ftyp') {
    const brand = text.slice(8, 12)
    if (/^(heic|heix|heim|heis|mif1|msf1)$/.test(brand)) return 'image/heic'
    if (brand === 'avif') return 'image/avif'
    if (brand === 'qt  ') return 'video/quicktime'
    if (brand.startsWith('3gp')) return 'video/3gpp'
    return 'video/mp4'
  }
  return undefined
}

const extensions: Readonly<Record<string, readonly string[]>> = {
  'image/jpeg': ['jpg', 'jpeg', 'jpe'],
  'image/png': ['png'],
  'image/gif': ['gif'],
  'image/webp': ['webp'],
  'image/heic': ['heic', 'heif'],
  'image/avif': ['avif'],
  'video/mp4': ['mp4', 'm4v'],
  'video/quicktime': ['mov', 'qt'],
  'video/3gpp': ['3gp'],
}

/** Whether a name ends as files of a type do. */
export function fitsName(name: string, type: string): boolean {
  const known = extensions[type]
  return !known || known.includes(name.slice(name.lastIndexOf('.') + 1).toLowerCase())
}

/** The name with the ending of a type. */
export function renameTo(name: string, type: string): string {
  const [ending] = extensions[type] ?? []
  if (!ending || fitsName(name, type)) return name
  const dot = name.lastIndexOf('.')
  return `${dot > 0 && name.length - dot <= 6 ? name.slice(0, dot) : name}.${ending}`
}

export function isFilm(type: string): boolean {
  return type.startsWith('video/')
}
