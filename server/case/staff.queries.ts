import { change, many, maybeOne, one, type Client } from '../base/db/sql.ts'
import type { StaffId } from '../base/ids.ts'

export function manyStaff(client: Client): Promise<{ name: string; initials: string }[]> {
  return many<{ name: string; initials: string }>(client, 'select name, initials from staff where is_active order by name')
}

export function maybeStaffNamed(client: Client, name: string): Promise<{ id: StaffId } | undefined> {
  return maybeOne<{ id: StaffId }>(client, 'select id from staff where lower(name) = lower($1) and is_active', [name])
}

export interface Staff {
  readonly id: StaffId
  readonly name: string
  readonly initials: string
}

export function maybeSigningIn(client: Client, name: string): Promise<(Staff & { pin_hash: string }) | undefined> {
  return maybeOne<Staff & { pin_hash: string }>(
    client,
    `select id, name, initials, pin_hash from staff where lower(name) = lower($1) and is_active`,
    [name],
  )
}

export interface StaffRow {
  id: StaffId
  name: string
  initials: string
  is_active: boolean
}

/** Everybody who works or worked here. */
export function manyAllStaff(client: Client): Promise<StaffRow[]> {
  return many<StaffRow>(client, 'select id, name, initials, is_active from staff order by is_active desc, name')
}

export function maybeStaff(client: Client, id: StaffId): Promise<StaffRow | undefined> {
  return maybeOne<StaffRow>(client, 'select id, name, initials, is_active from staff where id = $1', [id])
}

/** How many can sign in. */
export async function countActive(client: Client): Promise<number> {
  return (await one<{ n: number }>(client, 'select count(*)::int as n from staff where is_active')).n
}

/** @param pinHash null: the PIN stays */
export async function setStaff(
  client: Client,
  id: StaffId,
  { name, initials, isActive, pinHash }: { name: string; initials: string; isActive: boolean; pinHash: string | null },
): Promise<void> {
  await change(client, 'update staff set name = $2, initials = $3, is_active = $4, pin_hash = coalesce($5, pin_hash) where id = $1', [
    id,
    name,
    initials,
    isActive,
    pinHash,
  ])
}

/** Signs somebody's browsers out. @param but all but the one used last, which is the one they sit at */
export async function endSessionsOf(client: Client, staffId: StaffId, { but }: { but: boolean }): Promise<void> {
  await change(
    client,
    `delete from session
      where staff_id = $1 and ($2 = false or id <> (select id from session where staff_id = $1 order by used_at desc limit 1))`,
    [staffId, but],
  )
}

export interface TryLimits {
  readonly freeTries: number
  readonly firstWaitS: number
  readonly longestWaitS: number
}

/**
 * Counts a try at signing in and says whether it may be made: in one statement, so that of many at once no more are
 * let through than of many in turn.
 */
export async function countTry(client: Client, who: Buffer, { freeTries, firstWaitS, longestWaitS }: TryLimits): Promise<boolean> {
  await change(client, `delete from sign_in_try where at < now() - interval '1 day'`)
  const { may } = await one<{ may: boolean }>(
    client,
    `insert into sign_in_try as t (who, fails, may) values ($1, 1, true)
     on conflict (who) do update
       set may = t.until is null or t.until <= now(),
           fails = t.fails + (t.until is null or t.until <= now())::int,
           until = case when t.until > now() then t.until
                        when t.fails + 1 >= $2
                        then now() + make_interval(secs => least($4::float8, $3::float8 * 2 ^ least(t.fails + 1 - $2, 20))) end,
           at = now()
     returning may`,
    [who, freeTries, firstWaitS, longestWaitS],
  )
  return may
}

export async function forgetTries(client: Client, who: Buffer): Promise<void> {
  await change(client, 'delete from sign_in_try where who = $1', [who])
}

export async function isBrowserOf(client: Client, tokenHash: Buffer, staffId: StaffId): Promise<boolean> {
  return (await maybeOne(client, 'select 1 from browser where token_hash = $1 and staff_id = $2', [tokenHash, staffId])) !== undefined
}

/** A browser somebody signed in with; those nobody used for a year are forgotten. */
export async function keepBrowser(client: Client, tokenHash: Buffer, staffId: StaffId): Promise<void> {
  await change(
    client,
    `insert into browser (token_hash, staff_id) values ($1, $2) on conflict (token_hash) do update set staff_id = $2, used_at = now()`,
    [tokenHash, staffId],
  )
  await change(client, `delete from browser where used_at < now() - interval '1 year'`)
}

const isAlive = `t.expires_at > now() and t.used_at > now() - make_interval(mins => (select idle_minutes from shop where id = 1))`

/** Sessions that are alive, the newest first. */
export function manySessions(client: Client, staffId: StaffId) {
  return many<{ id: number; token_hash: Buffer; created_at: Date; used_at: Date }>(
    client,
    `select id, token_hash, created_at, used_at from session t where staff_id = $1 and ${isAlive} order by created_at desc`,
    [staffId],
  )
}

export function deleteSessionOf(client: Client, staffId: StaffId, id: number): Promise<number> {
  return change(client, 'delete from session where staff_id = $1 and id = $2', [staffId, id])
}

/** Somebody does something with a session: told once a minute. */
export async function noteUse(client: Client, tokenHash: Buffer): Promise<void> {
  await change(client, `update session set used_at = now() where token_hash = $1 and used_at < now() - interval '1 minute'`, [tokenHash])
}

export async function insertSession(
  client: Client,
  { tokenHash, staffId, hours }: { tokenHash: Buffer; staffId: StaffId; hours: number },
): Promise<void> {
  await change(client, `insert into session (token_hash, staff_id, expires_at) values ($1, $2, now() + make_interval(hours => $3))`, [
    tokenHash,
    staffId,
    hours,
  ])
}

export async function deleteSession(client: Client, tokenHash: Buffer): Promise<void> {
  await change(client, 'delete from session where token_hash = $1', [tokenHash])
}

export function maybeStaffOf(client: Client, tokenHash: Buffer, by: 'session' | 'bearer'): Promise<Staff | undefined> {
  const table = by === 'session' ? 'session t' : 'api_token t'
  const alive = by === 'session' ? `and ${isAlive}` : ''
  return maybeOne<Staff>(
    client,
    `select s.id, s.name, s.initials from ${table} join staff s on s.id = t.staff_id where t.token_hash = $1 and s.is_active ${alive}`,
    [tokenHash],
  )
}

export function insertStaff(
  client: Client,
  { name, initials, pinHash }: { name: string; initials: string; pinHash: string },
): Promise<Staff> {
  return one<Staff>(
    client,
    `insert into staff (name, initials, pin_hash) values ($1, $2, $3)
     on conflict (name) do update set initials = excluded.initials
     returning id, name, initials`,
    [name, initials, pinHash],
  )
}

export async function insertApiToken(client: Client, staffId: StaffId, tokenHash: Buffer): Promise<void> {
  await change(client, 'insert into api_token (token_hash, staff_id) values ($1, $2) on conflict do nothing', [tokenHash, staffId])
}
