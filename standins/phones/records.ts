import { calendarWays, giveEvent, takeEvent, type StoredEvent } from '../calendar/ics.ts'
import { callsOf, callWays, giveCall, takeCall, type StoredCall } from '../calls/calls.ts'
import { dialects } from '../dialects/index.ts'
import { giveMessage } from '../messages/give.ts'
import { cutMessage, takeMessage } from '../messages/take.ts'
import { messageWays, type StoredMessage } from '../messages/stored.ts'
import { giveApp, takeApp, type StoredApp } from '../apps/records.ts'
import { cutPhoto, givePhoto, indexed, photoWays, takePhoto, type StoredPhoto } from '../photos/listing.ts'
import { lookInto } from '../photos/look.ts'
import { modelOf, type PhoneRow } from './phone.ts'

/** How a phone keeps, gives and takes the records of one kind. */
export interface RecordDialect {
  give(stored: any): Buffer
  /** @throws Error when the bytes are not what this phone takes */
  take(bytes: Buffer): any
  /** Facts of a record as comparable text: what a test looks at. */
  facts(stored: any): string[]
  /** The code it refuses a record with, by its own limits. */
  refuses(stored: any): string | null
  /** When it happened, for kinds of which it keeps only the newest. */
  at?(stored: any): number
  /** Handles of what belongs to it and is streamed apart. */
  parts?(stored: any): { handle: string }[]
  /** The records it makes of one that is longer than it keeps. */
  cut?(stored: any): any[]
  /** What it counts as one conversation. */
  thread?(stored: any): string
  /** Settings without which it lets nobody write. */
  readonly writesOnly?: readonly string[]
  /** What a record takes up with all that belongs to it; its own length else. */
  sizeOf?(stored: any): number
  /** Looks into what came for itself, as a phone's own index does. */
  index?(stored: any, head: (handle: string) => Promise<Buffer>): Promise<any>
  /** Records it lists once more beside the one they belong to. */
  apart?(stored: any): { readonly stored: any; readonly name: string }[]
  /** How many it keeps at the most, the newest; the oldest go without a word. */
  readonly keeps?: number
}

/** @returns undefined when this phone has no such kind */
export function recordsOf(phone: Pick<PhoneRow, 'model'>, kind: string): RecordDialect | undefined {
  const model = modelOf(phone)
  const { limits, dialect } = model
  if (kind === 'contacts') {
    const contacts = dialects[dialect]
    return {
      give: contacts.give,
      take: contacts.take,
      facts: contacts.facts,
      refuses(stored) {
        const { photoBytes, phones, noteChars } = contacts.figures(stored)
        if (contacts.name(stored).length > limits.nameChars) return 'name-too-long'
        if (photoBytes > limits.photoBytes) return 'photo-too-large'
        return phones > limits.phones || noteChars > limits.noteChars ? 'not-understood' : null
      },
    }
  }
  if (kind === 'calendar') {
    const way = calendarWays[dialect]
    return {
      give: (stored: StoredEvent) => giveEvent(stored, way),
      take: (bytes) => takeEvent(bytes, way),
      facts: (stored: StoredEvent) => [JSON.stringify({ ...stored, uid: '' })],
      refuses: (stored: StoredEvent) =>
        model.platform === 'keypad' ? 'storage-read-only' : stored.title.length > limits.nameChars * 4 ? 'name-too-long' : null,
    }
  }
  if (kind === 'messages') {
    const way = messageWays[dialect]
    return {
      give: (stored: StoredMessage) => giveMessage(stored, way),
      take: (bytes) => takeMessage(bytes, way),
      facts: (stored: StoredMessage) => [
        JSON.stringify({
          ...stored,
          atMs: Math.floor(stored.atMs / 1000),
          parts: stored.parts.map(({ type, name, size }) => ({ type, name, size })),
        }),
      ],
      refuses: ({ parts }: StoredMessage) =>
        model.platform === 'keypad' ? 'storage-read-only' : parts.some((part) => part.size > 5_000_000) ? 'attachment-too-large' : null,
      at: (stored: StoredMessage) => stored.atMs,
      parts: (stored: StoredMessage) => stored.parts.filter(({ inside }) => inside === undefined),
      cut: (stored: StoredMessage) => cutMessage(stored, way),
      thread: ({ from, to }: StoredMessage) =>
        [
          ...new Set(
            [from, ...to]
              .filter(Boolean)
              .map((party) => (/[A-Za-z]/.test(party) ? party.toLowerCase() : party.replace(/\D/g, '').slice(-9))),
          ),
        ]
          .sort()
          .join(' '),
      writesOnly: model.platform === 'android' ? ['message-app'] : ['anti-theft-off', 'passcode-off'],
    }
  }
  if (kind === 'photos') {
    const way = photoWays[dialect]
    return {
      give: (stored: StoredPhoto) => givePhoto(stored, way),
      take: (bytes) => takePhoto(bytes, way),
      // what it is, whatever it is called and wherever it is kept
      facts: ({ takenMs, place, favourite, hidden, albums, cloud, files }: StoredPhoto) => [
        JSON.stringify({
          taken: Math.floor(takenMs / 1000),
          place,
          favourite,
          hidden,
          albums,
          cloud,
          files: files.map(({ role, size }) => ({ role, size })),
        }),
      ],
      refuses: ({ files }: StoredPhoto) =>
        model.platform === 'keypad' ? 'storage-read-only' : files.every(({ type }) => way.takes.includes(type)) ? null : 'not-understood',
      at: (stored: StoredPhoto) => stored.takenMs,
      parts: ({ cloud, files }: StoredPhoto) => (cloud ? [] : files),
      sizeOf: ({ cloud, files }: StoredPhoto) => (cloud ? 0 : files.reduce((sum, { size }) => sum + size, 0)),
      cut: (stored: StoredPhoto) => cutPhoto(stored, way),
      async index(stored: StoredPhoto, head) {
        const looks = await Promise.all(stored.files.map(async (file) => lookInto(await head(file.handle))))
        // what it is counts, not what it is called
        const files = stored.files.map((file, i) => ({ ...file, type: looks[i]!.type ?? 'application/octet-stream' }))
        return indexed({ ...stored, files }, looks[0]!, Date.now())
      },
      ...(way.clipsApart
        ? {
            apart: (stored: StoredPhoto) =>
              stored.files
                .filter(({ role }) => role === 'clip')
                .map((clip) => ({
                  name: clip.handle,
                  stored: { ...stored, albums: [], favourite: false, files: [{ ...clip, role: 'picture' as const }] },
                })),
          }
        : {}),
    }
  }
  if (kind === 'apps') {
    // a keypad phone has none, and installs none
    const way = model.platform === 'ios' ? 'plist' : 'lines'
    const parts = (stored: StoredApp) => [stored.package, stored.data].filter((part) => part !== null)
    return {
      give: (stored: StoredApp) => giveApp(stored, way),
      take: (bytes) => takeApp(bytes, way),
      facts: ({ bundle, data }: StoredApp) => [JSON.stringify({ bundle, data: data?.size ?? null })],
      refuses: () => (model.platform === 'keypad' ? 'storage-read-only' : null),
      parts,
      sizeOf: (stored: StoredApp) => parts(stored).reduce((sum, { size }) => sum + size, 0),
      // from the store by the owner's account, or the helper installs packages
      ...(model.platform === 'ios' ? { writesOnly: ['account-signed-in'] } : {}),
    }
  }
  if (kind !== 'calls') return undefined
  const way = callWays[dialect]
  return {
    give: (stored: StoredCall) => giveCall(stored, way),
    take: (bytes) => takeCall(bytes, way),
    facts: (stored: StoredCall) => callsOf(stored).map((call) => JSON.stringify(way.durations ? call : { ...call, durationS: null })),
    // nobody writes an iOS or a keypad phone's call log
    refuses: () => (model.platform === 'android' ? null : 'storage-read-only'),
    at: (stored: StoredCall) => stored.atMs,
    keeps: dialect === 'tamsel' ? 300 : dialect === 'holt' ? 20 : 500,
  }
}
