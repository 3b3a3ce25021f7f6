import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import type { FoundFile } from '#core/kinds/kind.ts'
import { photos } from '#core/kinds/photos/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { takesNone } from '#core/phones/capability.ts'
import { findModel } from '#core/phones/models.ts'
import { createInstantReader } from '#core/text/zone.ts'
import { calendarOf } from '#standins/kinds/calendar/demo.ts'
import type { StoredEvent } from '#standins/kinds/calendar/ics.ts'
import { callLog, type StoredCall } from '#standins/kinds/calls/calls.ts'
import { people } from '#standins/kinds/contacts/people.ts'
import { dialects } from '#standins/kinds/contacts/dialects.ts'
import { messagesOf } from '#standins/kinds/messages/demo.ts'
import { makeFile } from '#standins/files/files.ts'
import type { StoredPhoto } from '#standins/kinds/photos/listing.ts'
import { lookInto } from '#standins/kinds/photos/look.ts'
import type { StoredMessage } from '#standins/kinds/messages/stored.ts'
import { standinModels } from '#standins/phones/models.ts'
import { recordsOf } from '#standins/phones/records.ts'

const zone = 'Europe/London'
const tools = {
  number: createNumberReader('GB'),
  hash: (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex'),
  instant: createInstantReader(zone),
  nowMs: Date.UTC(2026, 10, 25),
}
const kin = ['Orrin 5', 'Tamsel M2', 'Veyra 12', 'Holt 3'].map((name) => standinModels.find(({ model }) => model === name)!)
type Model = (typeof kin)[number]

/** Moments around both turns of the clock of 2026, to the second and the millisecond, and any other of some years. */
const moment = fc.oneof(
  fc.integer({ min: Date.UTC(2026, 9, 25, 0), max: Date.UTC(2026, 9, 25, 3) }),
  fc.integer({ min: Date.UTC(2026, 2, 29, 0), max: Date.UTC(2026, 2, 29, 3) }),
  fc.integer({ min: Date.UTC(2001, 0, 1), max: Date.UTC(2026, 10, 20) }),
)
/** Texts with characters that forms escape, fold, or have no place for. */
const text = fc.string({
  unit: fc.oneof(fc.constantFrom(...';:,\\="\'<>& \t=é€İß山🧡\u200d\u0301'), fc.string({ minLength: 1, maxLength: 6 })),
  maxLength: 60,
})

interface Draw {
  readonly seed: number
  readonly at: number
  readonly says: string
}
/** What a phone keeps, by kind: the demo's traps, at any moment, saying anything. */
const stores: Record<string, (draw: Draw, from: Model) => unknown[]> = {
  contacts: ({ seed }, from) => people({ seed, count: 4, style: 'traps' }).map(({ person }) => dialects[from.dialect].store(person)),
  calls: ({ seed, at }) =>
    callLog({ seed, count: 4, style: 'traps' }).flatMap(({ stored, damage }) => (damage ? [] : [{ ...(stored as StoredCall), atMs: at }])),
  messages: ({ seed, at, says }) =>
    [...messagesOf({ seed, count: 4, style: 'traps' })].flatMap(({ stored, damage }) =>
      damage || stored.parts.length > 0 ? [] : [{ ...(stored as StoredMessage), atMs: at, text: says || stored.text }],
    ),
  calendar: ({ seed, says }) =>
    calendarOf({ seed, count: 4, style: 'traps' }).flatMap(({ stored, damage }) =>
      damage ? [] : [{ ...(stored as StoredEvent), title: says.replace(/[\r\n\t]/g, ' ').trim() || 'Untitled' }],
    ),
}

/** Pictures of contacts and occurrences of events cost time. */
const runs: Record<string, number> = { contacts: 4, calls: 40, messages: 30, calendar: 12 }

describe.each(Object.keys(stores))('%s, whatever they are', (code) => {
  const kind = kindOf(code)
  for (const from of kin)
    for (const to of kin)
      it(`${from.model} to ${to.model}: what it was given and gives back is its forecast form`, () => {
        const target = { ...findModel(to), zone }
        const [giver, taker] = [recordsOf(from, code), recordsOf(to, code)]
        if (!giver || !taker || takesNone(target, code)) return
        fc.assert(
          fc.property(fc.record({ seed: fc.integer({ min: 1, max: 100_000 }), at: moment, says: text }), (draw) => {
            for (const stored of stores[code]!(draw, from)) {
              const read = kind.read(giver.give(stored), tools)
              if (!read.ok) continue
              const changed = kind.change(read.item, target)
              if ('cannot' in changed) continue
              const taken = taker.take(Buffer.from(kind.write(changed.item, target)))
              const pieces = taker.cut?.(taken) ?? [taken]
              const forms = kind.split?.(changed.item, target) ?? [changed.item]
              const back = pieces.map((piece) => {
                const again = kind.read(taker.give(piece), tools)
                if (!again.ok) throw new Error(again.code)
                return kind.atoms(again.item, tools)
              })
              expect(back).toEqual(forms.map((form) => kind.atoms(form, tools)))
            }
          }),
          { seed: 1131, numRuns: runs[code]! },
        )
      })
})

/** A camera's clock and what it notes of its zone: nothing, then the file's time is the owner's own. */
const picture = fc.record({
  at: moment,
  offset: fc.constantFrom(undefined, undefined, '+00:00', '+01:00', '-03:30'),
  from: fc.constantFrom('hive.jpg', 'hive.jpg', 'lighthouse.heic', 'clip.mp4', 'screen.png'),
  isNoted: fc.constantFrom(true, true, false),
  /** How far the phone's own list is from what the file says. */
  listedApartMs: fc.constantFrom(0, 0, 3_600_000, 999),
})

describe('photos, whenever they were taken', () => {
  for (const from of kin)
    for (const to of kin)
      it(`${from.model} to ${to.model}: what the new phone's own index says is the forecast form`, async () => {
        const target = { ...findModel(to), zone }
        const [giver, taker] = [recordsOf(from, 'photos')!, recordsOf(to, 'photos')!]
        if (takesNone(target, 'photos')) return
        await fc.assert(
          fc.asyncProperty(picture, async ({ at, offset, from: seed, isNoted, listedApartMs }) => {
            const taken = new Date(at).toISOString().slice(0, 19).replace(/-/g, ':').replace('T', ' ')
            const bytes = makeFile({ from: seed, salt: at % 1000, ...(isNoted ? { notes: { taken, ...(offset ? { offset } : {}) } } : {}) })
            const looked = lookInto(bytes)
            const type = looked.type!
            const stored: StoredPhoto = {
              folder: 'DCIM/Camera',
              takenMs: (looked.takenMs ?? at) + listedApartMs,
              changedMs: Math.floor(at / 1000) * 1000,
              place: null,
              favourite: false,
              hidden: false,
              burst: '',
              albums: [],
              cloud: false,
              width: looked.width,
              height: looked.height,
              files: [{ role: 'picture', name: `a.${seed.split('.')[1]}`, type, handle: 'h', size: bytes.length }],
            }
            const digest = tools.hash(bytes)
            const inspector = photos.inspector!()
            inspector.push(bytes)
            const facts = await inspector.end()
            const noted = (record: Uint8Array, found: FoundFile) => photos.noteFiles!(record, new Map([['h', found]]))
            const read = photos.read(noted(giver.give(stored), { digest, sizeBytes: bytes.length, facts }), tools)
            if (!read.ok) throw new Error(read.code)
            const changed = photos.change(read.item, target)
            // what is made into another file at its turn has another digest: the integration tests carry it
            if ('cannot' in changed || photos.conversions!(changed.item).length > 0) return
            const written = taker.take(Buffer.from(photos.write(changed.item, target)))
            const kept = await taker.index!(written, async () => bytes)
            const again = photos.read(noted(taker.give(kept), { digest, sizeBytes: bytes.length }), tools)
            if (!again.ok) throw new Error(again.code)
            expect(photos.atoms(again.item, tools)).toEqual(photos.atoms(changed.item, tools))
          }),
          { seed: 1131, numRuns: 150 },
        )
      })
})
