import { zipSync } from 'fflate'
import type { TicketView } from '#contracts/http/ticket.ts'
import { closes, linesOfSums } from '#core/book/index.ts'
import type { Message } from '#core/kinds/messages/index.ts'
import { faces } from '#core/kinds/faces.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { setNeed } from '#server/ready/act-ready.ts'
import { numbers } from '#standins/demo/draw.ts'
import { makeFile } from '#standins/files/files.ts'
import type { MediaRecipe } from '#standins/files/media.ts'
import {
  addPhone,
  againstLedger,
  bookTicket,
  carry,
  countIn,
  figuresOf,
  hasFiles,
  isChecked,
  waitFor,
  type NamedPhone,
} from '../tests/setup/acts.ts'
import { againstStores } from '../tests/setup/contents.ts'
import type { TestShop } from '../tests/setup/shop.ts'
import { bring } from '../tests/setup/uploads.ts'

export interface Road {
  readonly old: string
  readonly now: string
  readonly kinds: readonly string[]
  /** What is taken home is locked. */
  readonly hasPassword: boolean
}

/** What a road begins at, and what of it a person can hold in a hand; of the phones a locker is made of, one each time. */
const olds = ['Orrin 5', 'Veyra 12', 'Holt 5', 'file', 'locker'] as const
const news = ['Orrin 9', 'Veyra 14', 'locker', 'files'] as const
const given: Readonly<Record<string, readonly string[]>> = {
  'Holt 5': ['contacts', 'calls', 'calendar', 'videos', 'music', 'recordings'],
  // nobody brings a voicemail or a wallpaper as that
  file: ['contacts', 'calls', 'calendar', 'messages', 'photos', 'videos', 'music', 'playlists', 'recordings', 'documents', 'books'],
}
const files = faces.flatMap(({ code, group }) => (group === 'files' ? [code] : []))
const most: readonly string[] = ['contacts', 'calls', 'calendar', 'messages', 'photos', ...files]
const lockersOf = ['locker of an Orrin 5', 'locker of a Veyra 12'] as const
/** Every road, with most kinds it can carry, drawn: contacts always, so that no road is without a person. */
export function roadsOf(seed: number): Road[] {
  const draw = numbers(seed)
  return olds.flatMap((old) =>
    news.map((now, at) => {
      const can = (given[old] ?? most).filter((kind) => kind !== 'calls' || now !== 'Veyra 14')
      return {
        old: old === 'locker' ? lockersOf[at % 2]! : old,
        now,
        kinds: withNamed(can.filter((kind) => kind === 'contacts' || draw() < 0.6)),
        hasPassword: draw() < 0.5,
      }
    }),
  )
}

/**
 * Every road with few kinds, so that each kind leaves every beginning and comes to every end that can have it: what a
 * pair of them may break is met, at a quarter of the work of all kinds on all roads.
 * @param seed which kind meets which pair
 */
export function coveringRoads(seed: number): Road[] {
  const canGo = (old: string, now: string, kind: string) => (given[old] ?? most).includes(kind) && (kind !== 'calls' || now !== 'Veyra 14')
  const goes = olds.map(() => news.map(() => new Set<string>()))
  for (const kind of most) {
    // from each beginning once, by turns to other ends
    olds.forEach((old, i) => {
      const turns = news.map((_, at) => (most.indexOf(kind) + i + seed + at) % news.length)
      const at = turns.find((end) => canGo(old, news[end]!, kind))
      if (at !== undefined) goes[i]![at]!.add(kind)
    })
    // and to each end that none of those came to
    news.forEach((now, at) => {
      if (goes.some((ends) => ends[at]!.has(kind))) return
      const i = olds.findIndex((old, from) => canGo(old, now, kind) && (from + at) % 2 === 0)
      if (i >= 0) goes[i]![at]!.add(kind)
    })
  }
  return olds.flatMap((old, i) =>
    news.map((now, at) => ({
      old: old === 'locker' ? lockersOf[at % 2]! : old,
      now,
      // no road without anything
      kinds: withNamed(goes[i]![at]!.size > 0 ? [...goes[i]![at]!] : ['contacts']),
      hasPassword: (i + at) % 2 === 0,
    })),
  )
}

/** A list of tracks comes with the tracks it names. */
function withNamed(kinds: readonly string[]): string[] {
  const named = kinds.flatMap((kind) => kindOf(kind).namesOthers?.kind ?? [])
  return [...new Set([...kinds, ...named])]
}

let n = 0
const versionOf = (model: string) => (model.startsWith('Veyra') ? '18' : model.startsWith('Holt') ? '2' : '13')

async function phoneOf(
  shop: TestShop,
  model: string,
  port: number,
  kinds: readonly string[] = [],
): Promise<NamedPhone & { serial: string }> {
  const phone = { serial: `RD-${++n}`, model, port, version: versionOf(model) }
  await addPhone(shop, phone)
  for (const kind of kinds)
    await shop.hand(`phones/${phone.serial}/fill`, {
      ...(kind === 'contacts' ? {} : { kind }),
      seed: 300 + n,
      count: hasFiles(kind) ? 4 : 18,
      tracks: 4,
      style: 'plain',
      film: 0,
    })
  await shop.hand(`phones/${phone.serial}/cable-files-on`, {}).catch(() => undefined)
  return phone
}

/** A file of each kind that is one. */
const brought: Readonly<Record<string, MediaRecipe>> = {
  videos: { as: 'mp4', seconds: 9, video: 'avc1', audio: 'mp4a', takenMs: Date.UTC(2025, 4, 1, 9), salt: 0 },
  music: { as: 'mp3', seconds: 60, tags: { title: 'Road', artist: 'Nobody' }, salt: 0 },
  recordings: { as: 'amr', seconds: 2, salt: 0 },
  documents: { as: 'pdf', title: 'Road', salt: 0 },
  books: { as: 'epub', title: 'Road', author: 'Nobody', salt: 0 },
}

/** Files of these kinds as somebody brings them: text of other programs’, pictures in a folder, a letter box that was taken home. */
async function filesOf(shop: TestShop, kinds: readonly string[]): Promise<{ upload: string }> {
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
    ...Object.fromEntries(
      Object.entries(brought).map(([kind, media]) => [
        kind,
        () => Object.fromEntries(twelve((i) => [`${kind}/${i}.bin`, makeFile({ media: { ...media, salt: 70 + i } })])),
      ]),
    ),
    playlists: () => ({
      'list.m3u8': lines([['#EXTM3U', '#PLAYLIST:Road'], ...twelve((i) => [`#EXTINF:9,Road ${i}`, `music/${11 - i}.bin`])]),
    }),
    photos: () => Object.fromEntries(twelve((i) => [`Holiday/IMG_${i}.jpg`, makeFile({ from: 'hive.jpg', salt: 90 + i })])),
  }
  const files = Object.assign({}, ...kinds.map((kind) => all[kind]!())) as Record<string, Buffer>
  // every second time they come in a ZIP
  return bring(shop.services, ++n % 2 ? files : { 'all.zip': zipSync(files) })
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
  shop: TestShop,
  number: string,
  { old, now, kinds }: { old: NamedPhone | null; now: NamedPhone | null; kinds: readonly string[] },
): Promise<TicketView> {
  for (const [side, phone] of [
    ['old', old],
    ['new', now],
  ] as const)
    if (phone) for (const act of acts[side](phone.model, kinds)) await shop.hand(`phones/${phone.serial}/${act}`, {})
  // what only a person can see is seen
  const { ready } = await readTicket(shop.services, number, shop.actor)
  for (const side of ['old', 'new'] as const)
    for (const { code, weight, state } of ready[side].needs)
      if (weight === 'must' && (state === 'ask' || state === 'unmet'))
        await setNeed(shop.services, number, { actor: shop.actor, body: { side, code, how: 'ticked', reason: null } }).catch(
          () => undefined,
        )
  await countIn(shop, number)
  await carry(shop, number)
  return waitFor(shop, number, isChecked, 'check off')
}

async function end({ services, actor }: TestShop, number: string): Promise<void> {
  await callOff(services, number, { body: { why: 'done', takeAway: false, typed: number }, actor })
  await handBackAndErase(services, number, number)
}

const keepUntil = () => new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10)

/**
 * Takes kinds along a road, from booking in to what is erased. Answers with what stands against it, a sentence each:
 * counts that do not agree, and what is not equal to what stands at both ends. Somebody must be working the shop's runs.
 */
export async function playRoad(shop: TestShop, { old, now, kinds, hasPassword }: Road): Promise<string[]> {
  const made: string[] = []
  const against: string[] = []
  const isByLocker = old.startsWith('locker')
  const wholeCopy = (ticket: TicketView) => {
    for (const row of ticket.ledger) {
      // a copy takes everything as it is
      const isWhole = row.verdict === 'agrees' && row.fates.carried === row.old.read && row.new.last === row.old.read
      if (!isWhole || !closes(linesOfSums(figuresOf(row))))
        against.push(`${row.kind}: ${row.verdict} ${JSON.stringify({ old: row.old, fates: row.fates, new: row.new })}`)
    }
  }
  try {
    const model = isByLocker ? old.replace(/^locker of an? /, '') : old
    const from = old === 'file' ? null : await phoneOf(shop, model, 1, kinds)
    if (from) made.push(from.serial)
    let side: Parameters<typeof bookTicket>[1] = from ?? (await filesOf(shop, kinds))
    if (isByLocker) {
      const number = await bookTicket(shop, from!, { keepUntil: keepUntil() }, [...kinds])
      const copied = await through(shop, number, { old: from, now: null, kinds })
      wholeCopy(copied)
      await end(shop, number)
      side = { copy: copied.new.copy!.id }
    }
    const to = now === 'locker' || now === 'files' ? null : await phoneOf(shop, now, 2)
    if (to) made.push(to.serial)
    const place = now === 'files' ? { home: hasPassword ? { password: 'Lantern 12' } : {} } : { keepUntil: keepUntil() }
    const number = await bookTicket(shop, side, to ?? place, [...kinds])
    const ticket = await through(shop, number, { old: isByLocker ? null : from, now: to, kinds })
    const rows = ticket.ledger.map(({ kind }) => kind).sort()
    if (rows.join() !== [...kinds].sort().join()) against.push(`rows of ${rows.join()}`)
    if (!to) wholeCopy(ticket)
    else {
      against.push(...(await againstLedger(shop, ticket, { new: to.serial })))
      if (from)
        for (const row of ticket.ledger)
          against.push(...(await againstStores(shop, row, { old: from.serial, new: to.serial })).map((one) => `${row.kind}: ${one}`))
    }
    await end(shop, number)
  } finally {
    for (const serial of made) await shop.hand(`phones/${serial}`, undefined, 'DELETE').catch(() => undefined)
  }
  return against
}
