import type { Readable } from 'node:stream'
import { createCardSplitter } from '#core/formats/vcard/index.ts'
import { LinkError, type LinkSession, type PhoneLink } from './link.ts'

export interface FileSource {
  readonly serial: string
  readonly region: string
  readonly cards: number
  readonly sizeBytes: number
  readonly revision: string
  open(): Readable
}

/** A dropped file as the old phone: another maker of the link, that can be read and nothing else. */
export function fileLink(file: FileSource): PhoneLink {
  return {
    prepare: async () => undefined,
    mark: async () => undefined,
    async attach(): Promise<LinkSession> {
      return {
        facts: async () => ({
          serial: file.serial,
          maker: 'File',
          model: 'Contacts file',
          platform: 'file',
          version: '',
          region: file.region,
          zone: 'Europe/London',
          batteryPercent: 100,
          isCharging: true,
          freeBytes: 0,
          totalBytes: file.sizeBytes,
          temperatureC: 20,
          settleMs: 0,
          bytesPerSecond: 0,
          hasWorkArea: false,
        }),
        readiness: async () => [],
        count: async () => ({ items: file.cards, bytes: file.sizeBytes, derived: 0, derivedOf: {}, revision: file.revision, also: {} }),
        list: () => listCards(file),
        openPart: () => {
          throw new LinkError('NoSuchRecord')
        },
        putPart: async () => {
          throw new LinkError('PermissionMissing')
        },
        open: async () => {
          throw new LinkError('NoSuchRecord')
        },
        amend: async () => {
          throw new LinkError('PermissionMissing')
        },
        write: async () => {
          throw new LinkError('PermissionMissing')
        },
        remove: async () => {
          throw new LinkError('PermissionMissing')
        },
      }
    },
  }
}

async function* listCards(file: FileSource): ReturnType<LinkSession['list']> {
  const splitter = createCardSplitter()
  let count = 0
  const record = (bytes: Uint8Array) => ({ id: String(++count), revision: '1', storage: 'file', body: Buffer.from(bytes).toString('base64') })
  try {
    for await (const chunk of file.open()) for (const card of splitter.push(chunk as Buffer)) yield record(card)
    for (const card of splitter.end()) yield record(card)
  } catch {
    throw new LinkError('LinkLost')
  }
  return { count, revision: file.revision }
}
