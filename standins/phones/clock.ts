import type pg from 'pg'
import { announce } from './live.ts'
import { changePhone, manyRestlessPhones } from './phones.queries.ts'
import { phoneKinds } from '../kinds/registry.ts'
import { modelOf, type PhoneRow } from './phone.ts'
import { fillRecords } from './store.ts'

/**
 * What happens to phones by itself, looked at every `everyMs`: questions nobody answers go by, screens lock,
 * batteries and temperatures move, an account syncs contacts in.
 */
export function startClock(pool: pg.Pool, everyMs = 500): () => void {
  let isBusy = false
  const timer = setInterval(() => {
    if (isBusy) return
    isBusy = true
    tick(pool, everyMs)
      .catch(() => undefined)
      .finally(() => (isBusy = false))
  }, everyMs)
  return () => clearInterval(timer)
}

async function tick(pool: pg.Pool, everyMs: number): Promise<void> {
  for (const phone of await manyRestlessPhones(pool)) {
    const { serial } = phone
    if (phone.is_overdue) await changeAndTell(pool, serial, { trust: 'none' })
    if (phone.wants_overdue) await changeAndTell(pool, serial, { wants: null })
    if (phone.is_idle && !phone.switches['screen-stays-on']) await changeAndTell(pool, serial, { is_locked: true, asked_since: new Date() })
    if (phone.temperature > 27 && phone.is_live) await cool(pool, phone, everyMs)
    if (phone.is_live) await drainOrCharge(pool, phone, everyMs)
    if (phone.sync_left > 0 && !phone.switches['accounts-still']) await syncOne(pool, phone)
  }
}

async function changeAndTell(pool: pg.Pool, serial: string, values: Partial<PhoneRow>): Promise<void> {
  await changePhone(pool, serial, values)
  announce({ event: 'changed', serial })
}

/** Half a degree a second; told when a threshold is passed. */
async function cool(pool: pg.Pool, { serial, temperature }: PhoneRow, everyMs: number): Promise<void> {
  const now = Math.max(27, temperature - everyMs / 2000)
  await changePhone(pool, serial, { temperature: now })
  if ([40, 45].some((limit) => temperature >= limit && now < limit)) announce({ event: 'changed', serial })
}

/** A percent each 30 seconds, up on a port that charges, else down. */
async function drainOrCharge(
  pool: pg.Pool,
  { serial, battery, is_charging: isCharging, is_on: isOn }: PhoneRow,
  everyMs: number,
): Promise<void> {
  if (Math.floor(Date.now() / 30_000) === Math.floor((Date.now() - everyMs) / 30_000)) return
  const next = isCharging ? Math.min(100, battery + 1) : isOn ? Math.max(1, battery - 1) : battery
  if (next !== battery) await changeAndTell(pool, serial, { battery: next })
}

async function syncOne(pool: pg.Pool, phone: PhoneRow): Promise<void> {
  const [kind] = phoneKinds
  await fillRecords(pool, phone, kind!.code, kind!.contents(modelOf(phone), { seed: 900 + phone.sync_left, count: 1 }))
  await changeAndTell(pool, phone.serial, { sync_left: phone.sync_left - 1 })
}
