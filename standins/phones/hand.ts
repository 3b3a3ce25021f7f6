import type pg from 'pg'
import { numbers } from '../demo/people.ts'
import { canAsk, fingerActs, preparedSwitches } from './fingers.ts'
import { announce, setSession } from './live.ts'
import { dropLooseParts } from './parts.ts'
import { modelOf, type PhoneRow } from './phone.ts'
import { altered, changePhone, findPhone } from './store.ts'

export class HandRefused extends Error {}

type Act = (pool: pg.Pool, phone: PhoneRow, values: any) => Promise<void>

async function askTrust(pool: pg.Pool, serial: string): Promise<void> {
  const phone = (await findPhone(pool, serial))!
  if (phone.trust === 'trusted' || !canAsk(phone, modelOf(phone).platform)) return
  // who pressed Trust meanwhile is not asked again
  const { rowCount } = await pool.query(`update phone set trust = 'asked', asked_since = now() where serial = $1 and trust <> 'trusted'`, [
    serial,
  ])
  if (rowCount) announce({ event: 'asked', serial })
}

/** What hands do to a phone from outside, and what a test does to its memory. */
const handActs: Readonly<Record<string, Act>> = {
  async plug(pool, { serial, falls_back: fallsBack, switches }, { port }: { port?: number }) {
    const used = await pool.query<{ port: number }>('select port from phone where port is not null and serial <> $1', [serial])
    const taken = new Set(used.rows.map((row) => row.port))
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
    await pool.query(
      `update phone set trust = case when trust = 'trusted' and not trust_once then trust else 'none' end, trust_once = false where serial = $1`,
      [serial],
    )
    // what was on its way and belongs to nothing goes with the cable
    setSession(serial, '')
    await dropLooseParts(pool, serial)
    announce({ event: 'pulled', serial })
  },
  async replug(pool, phone) {
    const { port } = phone
    if (port === null) throw new HandRefused('not-plugged')
    await handActs.pull!(pool, phone, {})
    await handActs.plug!(pool, (await findPhone(pool, phone.serial))!, { port })
  },
  /** What it is still sorting in is there now. */
  async 'sort-in'(pool, { serial }) {
    await pool.query('update record set visible_at = now() where serial = $1 and visible_at > now()', [serial])
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
    await pool.query(`update phone set trust = 'refused' where serial = $1 and trust = 'asked'`, [serial])
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
    await pool.query(`update phone set marked_until = now() + interval '20 seconds', marked_text = $2 where serial = $1`, [
      serial,
      text ?? '✱',
    ])
  },
  async 'break-record'(pool, { serial }, { id, damage }: { id?: number; damage?: string }) {
    await changeRecord(pool, serial, 'update record set damage = $3 where serial = $1 and id = $2', [id, damage ?? 'cut-card'])
  },
  async 'edit-record'(pool, { serial }, { id }: { id?: number }) {
    const { rows } = await pool.query<{ data: object }>('select data from record where serial = $1 and id = $2', [serial, id])
    if (!rows[0]) throw new HandRefused('no-such-record')
    await changeRecord(pool, serial, 'update record set data = $3, revision = revision + 1 where serial = $1 and id = $2', [
      id,
      JSON.stringify(altered(rows[0].data)),
    ])
  },
  /** An account syncs a record in once more, under an id of its own. */
  async 'copy-record'(pool, { serial }, { id }: { id?: number }) {
    const { rows } = await pool.query<{ id: number }>(
      'update phone set next_id = next_id + 1 where serial = $1 returning next_id - 1 as id',
      [serial],
    )
    await changeRecord(
      pool,
      serial,
      `insert into record (serial, kind, id, storage, data, size_bytes, at_ms, thread, name)
       select serial, kind, $3, 'account', data, size_bytes, at_ms, thread, name from record where serial = $1 and id = $2`,
      [id, rows[0]!.id],
    )
  },
  /** Its owner uses an app: what is in it is another. */
  async 'use-app'(pool, { serial }, { id }: { id?: number }) {
    const { rows } = await pool.query<{ data: { data: { handle: string; size: number } | null } }>(
      'select data from record where serial = $1 and id = $2',
      [serial, id],
    )
    const data = rows[0]?.data.data
    if (!data) throw new HandRefused('no-such-record')
    await pool.query(
      `update part set made = jsonb_set(made, '{generated}', to_jsonb((made->>'generated')::bigint + 500000)) where serial = $1 and record_id = $2 and handle = $3`,
      [serial, id, data.handle],
    )
    await changeRecord(pool, serial, 'update record set revision = revision + 1 where serial = $1 and id = $2', [id])
  },
  async 'delete-record'(pool, { serial }, { id }: { id?: number }) {
    await pool.query('delete from part where serial = $1 and record_id = $2', [serial, id])
    await changeRecord(pool, serial, 'delete from record where serial = $1 and id = $2', [id])
  },
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
    allows: ['contacts', 'messages', 'calls', 'calendar', 'photos'].filter(() => chance(0.5)),
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

async function changeRecord(pool: pg.Pool, serial: string, statement: string, values: readonly unknown[]): Promise<void> {
  await pool.query(statement, [serial, ...values])
  await pool.query('update phone set revision = revision + 1 where serial = $1', [serial])
}

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
  if (handActs[name]) await handActs[name](pool, phone, values)
  else await finger(pool, phone, name)
  await pool.query('update phone set touched_at = now() where serial = $1', [serial])
  announce({ event: 'changed', serial })
  return findPhone(pool, serial)
}
