/** A file of a photo; its bytes come by its handle. */
export interface PhotoFile {
  /** picture: what is shown, a film that stands alone included. clip: its moving half. original: what it was edited from. */
  readonly role: 'picture' | 'clip' | 'original'
  readonly name: string
  /** What it is by its own bytes, once they were streamed; what the phone calls it before. */
  readonly type: string
  /** What the phone calls it. */
  readonly calledType: string
  readonly handle: string
  readonly sizeBytes: number
  /** Of its bytes, once they were streamed; empty before. */
  readonly digest: string
}

/** What its owner calls one photo: with its moving half, and with the original behind an edited one. */
export interface Photo {
  readonly files: readonly PhotoFile[]
  /** Milliseconds since 1970, to the second: by the camera where the file says it, else as the phone lists it. */
  readonly takenMs: number | null
  /** The phone lists another date than the file itself says. */
  readonly isDateContradicted: boolean
  readonly hasPlace: boolean
  readonly folder: string
  readonly albums: readonly string[]
  readonly isFavourite: boolean
  readonly isHidden: boolean
  /** Photos of one burst share it. */
  readonly burst: string
  /** Only a small picture of it is on the phone. */
  readonly isCloudOnly: boolean
  readonly isTurned: boolean
  /** It ends before it is whole, on the old phone already. */
  readonly isDamaged: boolean
  readonly width: number
  readonly height: number
}

export function bytesOf({ files, isCloudOnly }: Photo): number {
  return isCloudOnly ? 0 : files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0)
}

export function shownFile({ files }: Photo): PhotoFile {
  return files.find(({ role }) => role === 'picture') ?? files[0]!
}
