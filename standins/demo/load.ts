import type pg from 'pg'
import { preparedSwitches } from '../phones/fingers.ts'
import { standinModel } from '../phones/models.ts'
import { addSwitches, changePhone, countPhones, findPhone, insertPhone } from '../phones/phones.queries.ts'
import { modelOf } from '../phones/phone.ts'
import { fillRecords } from '../phones/store.ts'
import { contacts, personOn } from '../kinds/contacts/index.ts'
import { people, type PersonOnPhone } from '../kinds/contacts/people.ts'
import { phoneKind } from '../kinds/registry.ts'

/** The phones of a second bench: another customer's pair, set up and trusted. */
export async function loadSecondBench(pool: pg.Pool): Promise<void> {
  if ((await countPhones(pool)) > 0) return
  await add(pool, { serial: 'OR4-7120-B3', model: 'Orrin 4', version: '11', port: 1, free: 2_600_000_000 })
  await fill(pool, 'OR4-7120-B3', people({ seed: 63, count: 164, style: 'traps' }))
  await fillMore(pool, 'OR4-7120-B3', 64, { calls: 120, calendar: 48, apps: 19, photos: 88, messages: 640 })
  await add(pool, { serial: 'TM3-5503-E9', model: 'Tamsel M3', version: '15', port: 2, free: 61_000_000_000 })
}

/**
 * The demo shop's practice phones, loaded once; what happened to them since then is kept.
 * @param isSmall a third of what there is most of: the same phones, every trap among it, for those who are in a hurry
 */
export async function loadDemo(pool: pg.Pool, { isSmall = false } = {}): Promise<void> {
  if ((await countPhones(pool)) > 0) return
  const many = (n: number) => (isSmall ? Math.round(n * 0.3) : n)
  const warden = people({ seed: 41, count: many(388), style: 'traps' })
  await add(pool, { serial: 'OR5-4417-K2', model: 'Orrin 5', version: '13', port: 3, free: 9_300_000_000 })
  await fill(pool, 'OR5-4417-K2', warden)
  await fillMore(pool, 'OR5-4417-K2', 44, { calls: many(600), calendar: 260, apps: 34, photos: many(412), messages: many(8900) })
  const files = { videos: many(38), music: many(240), recordings: 16, voicemail: 9, documents: 64, books: 14, wallpapers: 2, playlists: 6 }
  await fillMore(pool, 'OR5-4417-K2', 44, files, { trapsFrom: 2 })
  // some of what the old phone holds is on the new one already, and some of its own besides
  const there = warden.slice(0, 22).map(({ person }) => ({ person, storage: 'account' }))
  // and of some more it knows a name and a number, or something the old one does not
  const known = warden.slice(30, 48).flatMap(({ person }, i) => {
    const { given, middle, family, phones } = person
    // some are kept there under a shorter name, and stay two
    return given && family && phones?.[0]
      ? [
          {
            person: {
              given,
              family,
              ...(middle && i % 6 !== 5 ? { middle } : {}),
              phones: [phones[0]],
              ...(i % 3 === 0 ? { note: 'Met at the harbour fair' } : {}),
              ...(i % 5 === 4 ? { company: 'Saltmere Ferries' } : {}),
            },
            storage: 'account',
          },
        ]
      : []
  })
  await add(pool, { serial: 'VY12-9031-C7', model: 'Veyra 12', version: '18', port: 4, free: 21_400_000_000 })
  await fill(pool, 'VY12-9031-C7', [
    ...there,
    ...known,
    ...people({ seed: 77, count: 9 }).map(({ person }) => ({ person, storage: 'account' })),
  ])
  await fillMore(pool, 'VY12-9031-C7', 78, {
    calls: 14,
    calendar: 6,
    apps: 5,
    photos: 24,
    messages: 12,
    videos: 3,
    music: 12,
    wallpapers: 2,
  })
  // its locks are off already, as the customer did at home
  await addSwitches(pool, 'VY12-9031-C7', { 'anti-theft-off': true, 'passcode-off': true })
  await add(pool, { serial: 'TM2-2260-A5', model: 'Tamsel M2', version: '12', port: 1, free: 4_100_000_000 })
  await fill(pool, 'TM2-2260-A5', people({ seed: 19, count: many(1875), style: 'traps' }))
  await fillMore(pool, 'TM2-2260-A5', 23, {
    calls: 260,
    calendar: 240,
    apps: 41,
    photos: many(620),
    messages: many(900),
    videos: many(21),
    music: many(60),
    documents: 12,
  })
  await changePhone(pool, 'TM2-2260-A5', { is_locked: true, asked_since: new Date() })
  // the ferry mate with two numbers: many messages, every trap inside
  await add(pool, { serial: 'VY10-3317-D4', model: 'Veyra 10', version: '17', port: 7, free: 3_200_000_000 })
  await fill(pool, 'VY10-3317-D4', people({ seed: 52, count: 240, style: 'traps' }))
  await fillMore(pool, 'VY10-3317-D4', 53, { calls: many(583), calendar: many(676), apps: 52, photos: many(1140), messages: many(8960) })
  await fillMore(
    pool,
    'VY10-3317-D4',
    53,
    { videos: many(64), music: many(120), recordings: 22, documents: 18, books: 6, playlists: 4 },
    { trapsFrom: 10 },
  )
  await addSwitches(pool, 'VY10-3317-D4', { 'encrypted-reading': true })
  await add(pool, { serial: 'OR7-8852-F1', model: 'Orrin 7', version: '15', port: 8, free: 88_000_000_000 })
  await fillMore(pool, 'OR7-8852-F1', 53, { calls: 0, calendar: 0, apps: 3, photos: 6, messages: 30 })
  await addSwitches(pool, 'OR7-8852-F1', { 'message-app': true })
  // phones to train with: in their boxes, out of their ports, with the habits of their makers
  for (const [serial, model, version] of [
    ['OR7-1180-B3', 'Orrin 7', '15'],
    ['TM3-5092-D1', 'Tamsel M3', '14'],
    ['VY10-7743-A9', 'Veyra 10', '17'],
    ['VY14-2018-E6', 'Veyra 14', '18'],
    ['HT3-0064-F2', 'Holt 3', '2'],
  ] as const) {
    const { platform, fallsBack, joinsEqual, settleMs } = standinModel(model)!
    await insertPhone(pool, {
      serial,
      model,
      version,
      region: 'GB',
      setup: platform === 'keypad' ? 'set-up' : 'in-box',
      is_on: platform === 'keypad',
      allows: [],
      falls_back: fallsBack === true,
      joins_equal: joinsEqual,
      settle_ms: settleMs,
      battery: 62,
      is_charging: false,
      is_live: true,
      position: 20,
    })
  }
  await fill(pool, 'HT3-0064-F2', people({ seed: 31, count: 84 }))
}

async function add(pool: pg.Pool, phone: { serial: string; model: string; version: string; port: number; free: number }) {
  const model = standinModel(phone.model)!
  await insertPhone(pool, {
    serial: phone.serial,
    model: phone.model,
    version: phone.version,
    region: 'GB',
    port: phone.port,
    trust: 'asked',
    asked_since: new Date(),
    joins_equal: model.joinsEqual,
    settle_ms: model.settleMs,
    free_bytes: phone.free,
    battery: 84,
    position: phone.port,
    switches: preparedSwitches(model.platform),
  })
}

/** People, with where each is kept. */
async function fill(pool: pg.Pool, serial: string, what: readonly PersonOnPhone[]) {
  const phone = (await findPhone(pool, serial))!
  await fillRecords(
    pool,
    phone,
    contacts.code,
    what.map((one) => personOn(modelOf(phone), one)),
  )
}

/** So many of each other kind; from so many on, every trap inside. */
async function fillMore(pool: pg.Pool, serial: string, seed: number, counts: Readonly<Record<string, number>>, { trapsFrom = 101 } = {}) {
  const phone = (await findPhone(pool, serial))!
  for (const [code, count] of Object.entries(counts)) {
    const kind = phoneKind(code)!
    const style = count >= trapsFrom ? 'traps' : 'plain'
    const request = { seed, count, style, ...kind.ofDemo?.(count, seed) } as const
    await fillRecords(pool, phone, code, kind.contents(modelOf(phone), request))
  }
}
