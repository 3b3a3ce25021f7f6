import { Unzip, UnzipInflate } from 'fflate'
import { binaryText, joinBytes, utf8Text } from '../../text/bytes.ts'

/** What a book in an OCF container says of itself (EPUB 3.3, section 5.5; OCF, section 4.2.6). */
export interface BookFacts {
  readonly title: string | undefined
  readonly author: string | undefined
  /** Its text opens with somebody's key alone. */
  readonly isProtected: boolean
}

const mostPackageBytes = 1_048_576
/** Fonts may be mangled in a book that everybody may read (OCF, section 4.2.6.3.2). */
const fontsOnly = /^http:\/\/(www\.idpf\.org\/2008\/embedding|ns\.adobe\.com\/pdf\/enc#RC)$/

/** Reads a book's package document and what it says of encryption while it streams by; keeps no more of it. Never throws on data. */
export function createEpubReader(): { push(chunk: Uint8Array): void; end(): BookFacts } {
  const kept = new Map<string, Uint8Array[]>()
  let hasRights = false
  let isBroken = false
  const unzip = new Unzip((file) => {
    const isPackage = file.name.endsWith('.opf')
    const isEncryption = file.name === 'META-INF/encryption.xml'
    if (/^META-INF\/(rights|sinf)\.xml$/.test(file.name)) hasRights = true
    if ((!isPackage && !isEncryption) || kept.size >= 4) return
    const pieces: Uint8Array[] = []
    let size = 0
    kept.set(isPackage ? 'package' : 'encryption', pieces)
    file.ondata = (error, bytes) => {
      if (error) isBroken = true
      else if ((size += bytes.length) <= mostPackageBytes) pieces.push(bytes)
    }
    file.start()
  })
  unzip.register(UnzipInflate)
  const textOf = (name: string) => {
    const bytes = joinBytes(kept.get(name) ?? [])
    return utf8Text(bytes) ?? binaryText(bytes)
  }
  return {
    push(chunk) {
      if (isBroken) return
      try {
        unzip.push(chunk)
      } catch {
        isBroken = true
      }
    },
    end() {
      const about = textOf('package')
      const said = (name: string) => new RegExp(`<dc:${name}[^>]{0,500}>([^<]{1,500})</dc:${name}>`).exec(about)?.[1]
      const methods = [...textOf('encryption').matchAll(/EncryptionMethod[^>]{0,500}?Algorithm="([^"]{1,200})"/g)].map(
        ([, method]) => method!,
      )
      return {
        title: plain(said('title')),
        author: plain(said('creator')),
        isProtected: hasRights || methods.some((method) => !fontsOnly.test(method)),
      }
    },
  }
}

const plain = (text: string | undefined) =>
  text
    ?.replace(/&(amp|lt|gt|quot|apos);/g, (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" })[name]!)
    .replace(/\s+/g, ' ')
    .trim() || undefined
