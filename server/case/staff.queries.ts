import { change, many, maybeOne, one, type Client } from '../base/db/sql.ts'

export function manyStaff(client: Client): Promise<{ name: string; initials: string }[]> {
  return many<{ name: string; initials: string }>(client, 'select name, initials from staff order by name')
}

export function maybeStaffNamed(client: Client, name: string): Promise<{ id: number } | undefined> {
  return maybeOne<{ id: number }>(client, 'select id from staff where lower(name) = lower($1)', [name])
}

export interface Staff {
  readonly id: number
  readonly name: string
  readonly initials: string
}

export function maybeSigningIn(client: Client, name: string): Promise<(Staff & { pin_hash: string; is_locked: boolean }) | undefined> {
  return maybeOne<Staff & { pin_hash: string; is_locked: boolean }>(
    client,
    `select id, name, initials, pin_hash, coalesce(locked_until > now(), false) as is_locked from staff where lower(name) = lower($1)`,
    [name],
  )
}

/** After so many wrong PINs a name is locked for a minute. */
export async function countWrongPin(client: Client, staffId: number | null, most: number): Promise<void> {
  await change(
    client,
    `update staff
        set wrong_pins = wrong_pins + 1,
            locked_until = case when (wrong_pins + 1) % $2 = 0 then now() + interval '1 minute' else locked_until end
      where id = $1`,
    [staffId, most],
  )
}

export async function forgetWrongPins(client: Client, staffId: number): Promise<void> {
  await change(client, 'update staff set wrong_pins = 0, locked_until = null where id = $1', [staffId])
}

export async function insertSession(
  client: Client,
  { tokenHash, staffId, hours }: { tokenHash: Buffer; staffId: number; hours: number },
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
  const alive = by === 'session' ? 'and t.expires_at > now()' : ''
  return maybeOne<Staff>(
    client,
    `select s.id, s.name, s.initials from ${table} join staff s on s.id = t.staff_id where t.token_hash = $1 ${alive}`,
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

export async function insertApiToken(client: Client, staffId: number, tokenHash: Buffer): Promise<void> {
  await change(client, 'insert into api_token (token_hash, staff_id) values ($1, $2) on conflict do nothing', [tokenHash, staffId])
}
