import { binaryText } from '../text/bytes.ts'
import { numberAt } from './looking.ts'
import { isZip } from './zip/crc.ts'

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
    if (/^M4[ABP] $/.test(brand)) return 'audio/mp4'
    return 'video/mp4'
  }
  return sniffSound(head, text) ?? sniffDocument(head, text)
}

/** Sounds, and films of other containers than ISO base media. */
function sniffSound(head: Uint8Array, text: string): string | undefined {
  if (text.startsWith('fLaC')) return 'audio/flac'
  if (text.startsWith('OggS')) return 'audio/ogg'
  if (text.startsWith('RIFF') && text.slice(8, 12) === 'WAVE') return 'audio/wav'
  // RFC 4867, section 5
  if (text.startsWith('#!AMR')) return 'audio/amr'
  // EBML (RFC 8794); its document type tells the two apart
  if (text.startsWith('\x1aE\xdf\xa3')) return binaryText(head.subarray(0, 64)).includes('webm') ? 'video/webm' : 'video/x-matroska'
  if (text.startsWith('ID3')) return 'audio/mpeg'
  // a frame of MPEG audio: eleven bits of synchronisation, then a layer, a rate and a frequency that are none of those set aside
  const isFrame = head.length > 2 && head[0] === 0xff && (head[1]! & 0xe0) === 0xe0 && (head[1]! & 0x18) !== 0x08 && (head[1]! & 0x06) !== 0
  if (isFrame && (head[2]! & 0xf0) !== 0xf0 && (head[2]! & 0x0c) !== 0x0c) return 'audio/mpeg'
  // the same bits with layer 0 (ISO/IEC 13818-7, ADTS)
  if (head[0] === 0xff && (head[1]! & 0xf6) === 0xf0 && head.length > 2 && (head[2]! & 0x3c) >> 2 < 13) return 'audio/aac'
  return undefined
}

const officeTypes = {
  'word/': 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  'xl/': 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'ppt/': 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
} as const

/** Documents and books that say by their first bytes what they are. */
function sniffDocument(head: Uint8Array, text: string): string | undefined {
  if (text.startsWith('%PDF-')) return 'application/pdf'
  if (text.startsWith('{\\rtf')) return 'application/rtf'
  if (!text.startsWith('PK\x03\x04')) return undefined
  const more = binaryText(head.subarray(0, 4096))
  // OCF 3.3, section 4.3: the first of its files says what it is (ODF 1.3, part 2, section 3.3 the same)
  const mime = /^mimetype([\w.+/-]+?)PK/.exec(more.slice(30, 150))?.[1]
  if (mime === 'application/epub+zip' || mime?.startsWith('application/vnd.oasis.opendocument.')) return mime
  // ECMA-376, part 2: a package begins with a part of its own; a ZIP somebody packed such a document into does not
  const first = more.slice(30, 30 + numberAt(Uint8Array.of(head[27] ?? 0, head[26] ?? 0), 0, 2))
  if (!/^(\[Content_Types\]\.xml$|_rels\/|docProps\/|customXml\/|word\/|xl\/|ppt\/)/.test(first)) return undefined
  if (!more.includes('[Content_Types].xml') && !more.includes('_rels/.rels')) return undefined
  return Object.entries(officeTypes).find(([folder]) => more.includes(folder))?.[1]
}

/** A ZIP that somebody packed files into: books and documents are ZIPs, too, and are no folder. @param head its first bytes, 4096 where there are so many */
export function isPacked(head: Uint8Array): boolean {
  return isZip(head) && sniffType(head) === undefined
}

/** Text somebody can read: UTF-8 without controls, whatever it is called. @param head its first bytes */
export function isPlainText(head: Uint8Array): boolean {
  if (head.length === 0) return false
  const text = new TextDecoder().decode(head)
  // a letter cut at the end of what is looked at is none of the file's faults
  const bad = [...text.slice(0, -1)].filter((c) => c === '\ufffd' || (c < ' ' && !'\t\n\r\f'.includes(c))).length
  return bad === 0
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
  'video/3gpp': ['3gp', '3g2'],
  'video/x-matroska': ['mkv'],
  'video/webm': ['webm'],
  'audio/mp4': ['m4a', 'm4b', 'm4p', 'mp4', 'aac'],
  'audio/mpeg': ['mp3'],
  'audio/flac': ['flac'],
  'audio/ogg': ['ogg', 'oga', 'opus'],
  'audio/wav': ['wav'],
  'audio/amr': ['amr'],
  'audio/aac': ['aac'],
  'application/pdf': ['pdf'],
  'application/epub+zip': ['epub'],
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

export function isSound(type: string): boolean {
  return type.startsWith('audio/')
}
