import { createHash, randomBytes } from 'node:crypto'
import { hash, verify } from '@node-rs/argon2'
import type { Client } from '../base/db/sql.ts'
import { Problem } from '../base/problem.ts'
import {
  countWrongPin,
  deleteSession,
  forgetWrongPins,
  insertApiToken,
  insertSession,
  insertStaff,
  maybeSigningIn,
  maybeStaffOf,
  type Staff,
} from './staff.queries.ts'

export type { Staff } from './staff.queries.ts'

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
  const row = await maybeSigningIn(client, name)
  if (row?.is_locked) throw new Problem('PinThrottled')
  const isRight = row !== undefined && (await verify(row.pin_hash, pin))
  if (!isRight) {
    await countWrongPin(client, row?.id ?? null, mostWrongPins)
    throw new Problem('WrongPin')
  }
  await forgetWrongPins(client, row.id)
  const token = randomBytes(32).toString('base64url')
  await insertSession(client, { tokenHash: tokenHash(token), staffId: row.id, hours: sessionHours })
  return { token, staff: { id: row.id, name: row.name, initials: row.initials }, maxAgeS: sessionHours * 3600 }
}

export async function signOut(client: Client, token: string): Promise<void> {
  await deleteSession(client, tokenHash(token))
}

/** The member of staff a session's or a script's token belongs to. */
export function findStaff(client: Client, token: string, by: 'session' | 'bearer'): Promise<Staff | undefined> {
  return maybeStaffOf(client, tokenHash(token), by)
}

export async function addStaff(client: Client, { name, initials, pin }: { name: string; initials: string; pin: string }): Promise<Staff> {
  return insertStaff(client, { name, initials, pinHash: await hash(pin) })
}

export function addApiToken(client: Client, staffId: number, token: string): Promise<void> {
  return insertApiToken(client, staffId, tokenHash(token))
}
