import { describe, expect, it } from 'vitest'
import type { TicketView } from '#contracts/http/ticket.ts'
import { closes, linesOfSums } from '#core/book/index.ts'
import { zipSync } from 'fflate'
import type { Message } from '#core/kinds/messages/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { numbers } from '#standins/demo/draw.ts'
import { makeFile } from '#standins/files/files.ts'
import { bring } from '../setup/uploads.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { setNeed } from '#server/ready/act-ready.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { againstStores } from '../setup/contents.ts'
import {
  addPhone,
  bookTicket,
  carry,
  countIn,
  expectAgrees,
  figuresOf,
  isChecked,
  useShop,
  waitFor,
  type NamedPhone,
} from '../setup/ticket.ts'

const shop = useShop({ leaseMs: 500 })
const keepUntil = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10)

/** What a road begins at, and what of it a person can hold in a hand; of the phones a locker is made of, one each time. */
const olds = ['Orrin 5', 'Veyra 12', 'Holt 5', 'file', 'locker'] as const
const news = ['Orrin 9', 'Veyra 14', 'locker', 'files'] as const
const given: Readonly<Record<string, readonly string[]>> = {
  'Holt 5': ['contacts', 'calls', 'calendar'],
}
const most = ['contacts', 'calls', 'calendar', 'messages', 'photos'] as const
const lockersOf = ['locker of an Orrin 5', 'locker of a Veyra 12'] as const
const draw = numbers(2026)
/** Every road, with kinds drawn from those it can carry: contacts always, so that no road is without a person. */
const roads = olds.flatMap((old) =>
  news.map((now, at) => {
    const can = (given[old] ?? most).filter((kind) => kind !== 'calls' || now !== 'Veyra 14')
    return { old: old === 'locker' ? lockersOf[at % 2]! : old, now, kinds: can.filter((kind) => kind === 'contacts' || draw() < 0.6) }
  }),
)

let n = 0
const versionOf = (model: string) => (model.startsWith('Veyra') ? '18' : model.startsWith('Holt') ? '2' : '13')

async function phoneOf(model: string, port: number, kinds: readonly string[] = []): Promise<NamedPhone & { serial: string }> {
  const phone = { serial: `RD-${++n}`, model, port, version: versionOf(model) }
  await addPhone(shop(), phone)
  for (const kind of kinds)
    await shop().hand(`phones/${phone.serial}/fill`, {
      ...(kind === 'contacts' ? {} : { kind }),
      seed: 300 + n,
      count: kind === 'photos' ? 4 : 18,
      style: 'plain',
      film: 0,
    })
  await shop()
    .hand(`phones/${phone.serial}/cable-files-on`, {})
    .catch(() => undefined)
  return phone
}

/** Files of these kinds as somebody brings them: text of other programs’, pictures in a folder, a letter box that was taken home. */
async function filesOf(kinds: readonly string[]): Promise<{ upload: string }> {
  const lines = (records: readonly (readonly string[])[]) => Buffer.from(records.flat().join('\r\n') + '\r\n')
  const twelve = <T>(make: (i: number) => T) => Array.from({ length: 12 }, (_, i) => make(i))
  const message = (i: number): Message => ({
    direction: i % 3 ? 'in' : 'out',
    state: 'done',
    service: 'sms',
    chatOf: '',
    atMs: Date.UTC(2026, 9, 1, 12, i),
    from: i % 3 ? `+4477009002${10 + i}` : '',
    to: i % 3 ? [] : [`+4477009002${10 + i}`],
    isRead: true,
    line: 1,
    subject: '',
    group: '',
    text: `Road ${i}\nFrom here to there`,
    reactionTo: undefined,
    attachments: [],
  })
  const all: Readonly<Record<string, () => Record<string, Buffer>>> = {
    contacts: () => ({
      'people.vcf': lines(
        twelve((i) => ['BEGIN:VCARD', 'VERSION:3.0', `N:Road;Pat ${i};;;`, `FN:Pat ${i} Road`, `TEL:+4477009001${10 + i}`, 'END:VCARD']),
      ),
    }),
    calls: () => ({
      'log.vcf': lines(
        twelve((i) => [
          'BEGIN:VCARD',
          'VERSION:2.1',
          'N:',
          `TEL:+4477009003${10 + i}`,
          `X-IRMC-CALL-DATETIME;RECEIVED:202610${10 + i}T101500Z`,
          'END:VCARD',
        ]),
      ),
    }),
    calendar: () => ({
      'dates.ics': lines([
        ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN'],
        ...twelve((i) => ['BEGIN:VEVENT', `UID:road-${i}`, `SUMMARY:Road ${i}`, `DTSTART:202612${10 + i}T100000Z`, 'END:VEVENT']),
        ['END:VCALENDAR'],
      ]),
    }),
    messages: () => ({
      'Messages.mbox': Buffer.concat(
        twelve((i) => kindOf('messages').archive!.write(message(i), { record: Buffer.alloc(0), position: i + 1, paths: new Map() })),
      ),
    }),
    photos: () => Object.fromEntries(twelve((i) => [`Holiday/IMG_${i}.jpg`, makeFile({ from: 'hive.jpg', salt: 90 + i })])),
  }
  const files = Object.assign({}, ...kinds.map((kind) => all[kind]!())) as Record<string, Buffer>
  // every second time they come in a ZIP
  return bring(shop().services, ++n % 2 ? files : { 'all.zip': zipSync(files) })
}

/** What fingers do on phones of a platform before those kinds may be read or written there. */
const acts: Readonly<Record<'old' | 'new', (model: string, kinds: readonly string[]) => string[]>> = {
  old: (model, kinds) =>
    model.startsWith('Veyra') && kinds.some((kind) => ['messages', 'calls'].includes(kind)) ? ['encrypted-reading-on'] : [],
  new: (model, kinds) => {
    if (!kinds.includes('messages')) return []
    return model.startsWith('Veyra') ? ['anti-theft-off', 'passcode-off'] : ['message-app-helper']
  },
}

async function through(
  number: string,
  { old, now, kinds }: { old: NamedPhone | null; now: NamedPhone | null; kinds: readonly string[] },
): Promise<TicketView> {
  for (const [side, phone] of [
    ['old', old],
    ['new', now],
  ] as const)
    if (phone) for (const act of acts[side](phone.model, kinds)) await shop().hand(`phones/${phone.serial}/${act}`, {})
  // what only a person can see is seen
  const { ready } = await readTicket(shop().services, number, shop().actor)
  for (const side of ['old', 'new'] as const)
    for (const { code, weight, state } of ready[side].needs)
      if (weight === 'must' && (state === 'ask' || state === 'unmet'))
        await setNeed(shop().services, number, { actor: shop().actor, body: { side, code, how: 'ticked', reason: null } }).catch(
          () => undefined,
        )
  await countIn(shop(), number)
  await carry(shop(), number)
  return waitFor(shop(), number, isChecked, 'check off')
}

async function end(number: string): Promise<void> {
  const { services, actor } = shop()
  await callOff(services, number, { body: { why: 'done', takeAway: false, typed: number }, actor })
  await handBackAndErase(services, number, number)
}

describe('every road ends in counts that agree, equal to what stands at both ends', () => {
  it.each(roads)(
    '$old to $now: $kinds',
    async ({ old, now, kinds }) => {
      const made: string[] = []
      const isByLocker = old.startsWith('locker')
      try {
        const model = isByLocker ? old.replace(/^locker of an? /, '') : old
        const from = old === 'file' ? null : await phoneOf(model, 1, kinds)
        if (from) made.push(from.serial)
        let side: Parameters<typeof bookTicket>[1] = from ?? (await filesOf(kinds))
        if (isByLocker) {
          const number = await bookTicket(shop(), from!, { keepUntil }, kinds)
          const copied = await through(number, { old: from, now: null, kinds })
          expect(copied.ledger.map(({ verdict }) => verdict).every((verdict) => verdict === 'agrees')).toBe(true)
          await end(number)
          side = { copy: copied.new.copy!.id }
        }
        const to = now === 'locker' || now === 'files' ? null : await phoneOf(now, 2)
        if (to) made.push(to.serial)
        const number = await bookTicket(
          shop(),
          side,
          to ?? (now === 'files' ? { home: draw() < 0.5 ? {} : { password: 'Lantern 12' } } : { keepUntil }),
          kinds,
        )
        const ticket = await through(number, { old: isByLocker ? null : from, now: to, kinds })
        expect(ticket.ledger.map(({ kind }) => kind).sort()).toEqual([...kinds].sort())
        if (to) {
          await expectAgrees(shop(), ticket, { new: to.serial })
          if (from)
            for (const row of ticket.ledger)
              expect([row.kind, await againstStores(shop(), row, { old: from.serial, new: to.serial })]).toEqual([row.kind, []])
        } else {
          for (const row of ticket.ledger) {
            // a copy takes everything as it is
            expect([row.kind, row.verdict, closes(linesOfSums(figuresOf(row)))]).toEqual([row.kind, 'agrees', true])
            expect([row.kind, row.fates.carried, row.new.last]).toEqual([row.kind, row.old.read, row.old.read])
          }
        }
        await end(number)
      } finally {
        for (const serial of made)
          await shop()
            .hand(`phones/${serial}`, undefined, 'DELETE')
            .catch(() => undefined)
      }
    },
    90_000,
  )
})
