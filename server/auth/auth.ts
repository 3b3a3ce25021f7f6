import { createHash, randomBytes } from 'node:crypto'
import { hash, verify } from '@node-rs/argon2'
import { maybeOne, one, type Client } from '../db/sql.ts'
import { Problem } from '../http/problem.ts'

export interface Staff {
  readonly id: number
  readonly name: string
  readonly initials: string
}

const sessionHours = 12
const mostWrongPins = 5

function tokenHash(token: string): Buffer {
  return createHash('sha256').update(token).digest()
}

/** Signs in by name and PIN; answers with a token of which only the hash is kept. @throws Problem `WrongPin`, `PinThrottled` */
export async function signIn(
  client: Client,
  { name, pin }: { name: string; pin: string },
): Promise<{ token: string; staff: Staff; maxAgeS: number }> {
  const row = await maybeOne<Staff & { pin_hash: string; is_locked: boolean }>(
    client,
    `select id, name, initials, pin_hash, coalesce(locked_until > now(), false) as is_locked from staff where lower(name) = lower($1)`,
    [name],
  )
  if (row?.is_locked) throw new Problem('PinThrottled')
  const isRight = row !== undefined && (await verify(row.pin_hash, pin))
  if (!isRight) {
    await client.query(
      `update staff
          set wrong_pins = wrong_pins + 1,
              locked_until = case when (wrong_pins + 1) % $2 = 0 then now() + interval '1 minute' else locked_until end
        where id = $1`,
      [row?.id ?? null, mostWrongPins],
    )
    throw new Problem('WrongPin')
  }
  await client.query('update staff set wrong_pins = 0, locked_until = null where id = $1', [row.id])
  const token = randomBytes(32).toString('base64url')
  await client.query(`insert into session (token_hash, staff_id, expires_at) values ($1, $2, now() + make_interval(hours => $3))`, [
    tokenHash(token),
    row.id,
    sessionHours,
  ])
  return { token, staff: { id: row.id, name: row.name, initials: row.initials }, maxAgeS: sessionHours * 3600 }
}

export async function signOut(client: Client, token: string): Promise<void> {
  await client.query('delete from session where token_hash = $1', [tokenHash(token)])
}

/** The member of staff a session's or a script's token belongs to. */
export function findStaff(client: Client, token: string, by: 'session' | 'bearer'): Promise<Staff | undefined> {
  const table = by === 'session' ? 'session t' : 'api_token t'
  const alive = by === 'session' ? 'and t.expires_at > now()' : ''
  return maybeOne<Staff>(
    client,
    `select s.id, s.name, s.initials from ${table} join staff s on s.id = t.staff_id where t.token_hash = $1 ${alive}`,
    [tokenHash(token)],
  )
}

export async function addStaff(client: Client, { name, initials, pin }: { name: string; initials: string; pin: string }): Promise<Staff> {
  return one<Staff>(
    client,
    `insert into staff (name, initials, pin_hash) values ($1, $2, $3)
     on conflict (name) do update set initials = excluded.initials
     returning id, name, initials`,
    [name, initials, await hash(pin)],
  )
}

export async function addApiToken(client: Client, staffId: number, token: string): Promise<void> {
  await client.query('insert into api_token (token_hash, staff_id) values ($1, $2) on conflict do nothing', [tokenHash(token), staffId])
}
