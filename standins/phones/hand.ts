import type pg from 'pg'
import { numbers } from '../demo/draw.ts'
import { canAsk, fingerActs, preparedSwitches } from './fingers.ts'
import { announce, setConnection } from './live.ts'
import { deleteFilesOfAny, dropLooseFiles } from './files.queries.ts'
import { modelOf, type PhoneRow } from './phone.ts'
import {
  askForTrust,
  bumpPhone,
  changePhone,
  endTrustOnce,
  findPhone,
  manyTakenPorts,
  nextId,
  refuseTrust,
  showMark,
  touchPhone,
} from './phones.queries.ts'
import { copyRecord, deleteAnyRecord, maybeAnyRecord, setDamage, setData, sortIn, type RecordRow } from './records.queries.ts'
import { askedKinds, phoneKind } from '../kinds/registry.ts'

export class HandRefused extends Error {}

// each act reads what it is given by its own names
type Act<Values = never> = (pool: pg.Pool, phone: PhoneRow, values: Values) => Promise<void>

async function askTrust(pool: pg.Pool, serial: string): Promise<void> {
  const phone = (await findPhone(pool, serial))!
  if (phone.trust === 'trusted' || !canAsk(phone, modelOf(phone).platform)) return
  // who pressed Trust meanwhile is not asked again
  if (await askForTrust(pool, serial)) announce({ event: 'asked', serial })
}

/** What hands do to a phone from outside, and what a test does to its memory. */
const handActs: Readonly<Record<string, Act>> = {
  async plug(pool, { serial, falls_back: fallsBack, switches }, { port }: { port?: number }) {
    const taken = new Set(await manyTakenPorts(pool, serial))
    const free = port ?? [1, 2, 3, 4, 5, 6, 7, 8].find((p) => !taken.has(p))
    if (free === undefined || taken.has(free)) throw new HandRefused('port-taken')
    await changePhone(pool, serial, {
      port: free,
      is_charging: true,
      is_asleep: false,
      // many phones fall back to “charging only” each time the cable is moved
      ...(fallsBack ? { switches: { ...switches, 'cable-files': false } } : {}),
    })
    await askTrust(pool, serial)
    announce({ event: 'plugged', port: free, serial })
  },
  async pull(pool, { serial }) {
    await changePhone(pool, serial, { port: null, is_charging: false, wants: null })
    await endTrustOnce(pool, serial)
    // what was on its way and belongs to nothing goes with the cable
    setConnection(serial, '')
    await dropLooseFiles(pool, serial)
    announce({ event: 'pulled', serial })
  },
  async replug(pool, phone) {
    const { port } = phone
    if (port === null) throw new HandRefused('not-plugged')
    await run('pull', pool, phone)
    await run('plug', pool, (await findPhone(pool, phone.serial))!, { port })
  },
  /** What it is still sorting in is there now. */
  async 'sort-in'(pool, { serial }) {
    await sortIn(pool, serial)
  },
  async lock(pool, { serial }) {
    await changePhone(pool, serial, { is_locked: true, asked_since: new Date() })
    announce({ event: 'locked', serial })
  },
  async unlock(pool, { serial, setup, is_on: isOn }) {
    if (!isOn) throw new HandRefused('off')
    if (setup !== 'set-up') throw new HandRefused('at-welcome')
    await changePhone(pool, serial, { is_locked: false })
    await askTrust(pool, serial)
    announce({ event: 'unlocked', serial })
  },
  async trust(pool, { serial, is_locked: isLocked, trust }, { once }: { once?: boolean }) {
    if (isLocked) throw new HandRefused('locked')
    if (trust !== 'asked') throw new HandRefused('nothing-asked')
    await changePhone(pool, serial, { trust: 'trusted', trust_once: once === true })
    announce({ event: 'answered', serial })
  },
  async refuse(pool, { serial }) {
    await refuseTrust(pool, serial)
    announce({ event: 'answered', serial })
  },
  async 'tap-build-number'(pool, phone) {
    mustBeInHand(phone)
    if (modelOf(phone).platform !== 'android') throw new HandRefused('not-on-this-phone')
    const taps = phone.build_taps + 1
    await changePhone(pool, phone.serial, {
      build_taps: taps % 7,
      switches: taps >= 7 ? { ...phone.switches, 'developer-options': true } : phone.switches,
    })
  },
  async withdraw(pool, { serial, allows }, { kind }: { kind: string }) {
    await changePhone(pool, serial, { allows: allows.filter((k) => k !== kind) })
  },
  /** The owner updates it to a version. */
  async update(pool, { serial }, { version }: { version?: string }) {
    await changePhone(pool, serial, { version: version ?? '18' })
  },
  async set(pool, { serial }, values: Partial<PhoneRow>) {
    const given = Object.fromEntries(settable.flatMap((name) => (values[name] === undefined ? [] : [[name, values[name]]])))
    await changePhone(pool, serial, given)
  },
  /** A state drawn from a seed: the same seed draws the same. */
  async roll(pool, phone, { seed }: { seed: number }) {
    await changePhone(pool, phone.serial, drawnState(phone, seed))
  },
  async mark(pool, { serial }, { text }: { text?: string }) {
    await showMark(pool, serial, text ?? '✱')
  },
  async 'break-record'(pool, { serial }, { id, damage }: { id?: number; damage?: string }) {
    await setDamage(pool, serial, (await theRecord(pool, serial, id)).id, damage ?? 'cut-card')
    await bumpPhone(pool, serial)
  },
  async 'edit-record'(pool, { serial }, { id }: { id?: number }) {
    const record = await theRecord(pool, serial, id)
    await setData(pool, serial, record.id, phoneKind(record.kind)!.alter(record.data))
    await bumpPhone(pool, serial)
  },
  /** An account syncs a record in once more, under an id of its own. */
  async 'copy-record'(pool, { serial }, { id }: { id?: number }) {
    const record = await theRecord(pool, serial, id)
    await copyRecord(pool, serial, record.id, await nextId(pool, serial))
    await bumpPhone(pool, serial)
  },
  async 'delete-record'(pool, { serial }, { id }: { id?: number }) {
    const record = await theRecord(pool, serial, id)
    await deleteFilesOfAny(pool, serial, record.id)
    await deleteAnyRecord(pool, serial, record.id)
    await bumpPhone(pool, serial)
  },
}

const run = (name: string, pool: pg.Pool, phone: PhoneRow, values: object = {}) => handActs[name]!(pool, phone, values as never)

/** @throws HandRefused when the phone holds no such record */
export async function theRecord(pool: pg.Pool, serial: string, id: number | undefined): Promise<RecordRow & { kind: string }> {
  const record = await maybeAnyRecord(pool, serial, Number(id) || 0)
  if (!record) throw new HandRefused('no-such-record')
  return record
}

/** Any state a phone may come to the bench in, its habits included. */
function drawnState(phone: PhoneRow, seed: number): Partial<PhoneRow> {
  const next = numbers(seed)
  const chance = (share: number) => next() < share
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const setup = pick(['in-box', 'welcome', 'set-up', 'set-up', 'set-up'] as const)
  const switches = Object.fromEntries(Object.keys(preparedSwitches(modelOf(phone).platform)).map((name) => [name, chance(0.4)]))
  return {
    setup,
    is_on: setup !== 'in-box' && chance(0.8),
    is_locked: setup === 'set-up' && chance(0.5),
    trust: 'none',
    trust_once: false,
    cable: pick(['data', 'data', 'slow', 'charge-only'] as const),
    is_asleep: chance(0.2),
    falls_back: chance(0.3),
    battery: 5 + Math.floor(next() * 95),
    is_charging: chance(0.5),
    temperature: pick([24, 27, 31, 41, 46]),
    free_bytes: pick([400_000_000, 8_000_000_000, 40_000_000_000]),
    // debugging stands on developer options
    switches: { ...switches, ...(switches.debugging ? { 'developer-options': true } : {}) },
    allows: askedKinds.filter(() => chance(0.5)),
    build_taps: 0,
    wants: null,
  }
}

const settable = [
  'battery',
  'is_charging',
  'free_bytes',
  'temperature',
  'settle_ms',
  'drops_when_full',
  'joins_equal',
  'setup',
  'is_on',
  'cable',
  'is_asleep',
  'falls_back',
  'switches',
  'allows',
  'prompt_ms',
  'locks_after_ms',
  'is_live',
  'heat_per_write',
  'sync_left',
  'has_work_area',
  'region',
] as const satisfies readonly (keyof PhoneRow)[]

/** A finger on the phone's own screen reaches it only when it is on, set up and unlocked. */
function mustBeInHand({ is_on: isOn, setup, is_locked: isLocked }: PhoneRow): void {
  if (!isOn) throw new HandRefused('off')
  if (setup === 'in-box' || setup === 'welcome') throw new HandRefused('at-welcome')
  if (isLocked) throw new HandRefused('locked')
}

async function finger(pool: pg.Pool, phone: PhoneRow, name: string): Promise<void> {
  const act = fingerActs[name]!
  if (act.on && !act.on.includes(modelOf(phone).platform)) throw new HandRefused('not-on-this-phone')
  if (!act.anywhere) mustBeInHand(phone)
  const missing = act.after?.find((need) => !phone.switches[need])
  if (missing) throw new HandRefused(`first-${missing}`)
  // a phone that is turned on for the first time greets its owner
  const greeting = name === 'turn-on' && phone.setup === 'in-box' ? { setup: 'welcome' as const } : {}
  if (name === 'finish-welcome' && !phone.is_on) throw new HandRefused('off')
  await changePhone(pool, phone.serial, {
    ...act.columns,
    ...greeting,
    ...(act.sets ? { switches: { ...phone.switches, ...act.sets } } : {}),
    ...(act.allows && !phone.allows.includes(act.allows) ? { allows: [...phone.allows, act.allows] } : {}),
    ...(name === 'forget-computers' ? { trust_once: false } : {}),
  })
  if (act.asksTrust) await askTrust(pool, phone.serial)
}

export function isHandAct(name: string): boolean {
  return Object.hasOwn(handActs, name) || Object.hasOwn(fingerActs, name)
}

/** Does one act with a phone, and answers with the phone as it is then. @throws HandRefused with what stands against it */
export async function act(pool: pg.Pool, serial: string, name: string, values: object): Promise<PhoneRow | undefined> {
  const phone = await findPhone(pool, serial)
  if (!phone) return undefined
  if (handActs[name]) await run(name, pool, phone, values)
  else await finger(pool, phone, name)
  await touchPhone(pool, serial)
  announce({ event: 'changed', serial })
  return findPhone(pool, serial)
}
