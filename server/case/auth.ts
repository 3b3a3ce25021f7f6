import { createHash, randomBytes } from 'node:crypto'
import { hash, verify } from '@node-rs/argon2'
import type { Client } from '../base/db/sql.ts'
import type { Actor } from '../base/did.ts'
import { Problem } from '../base/problem.ts'
import type { SessionView } from '#contracts/http/ticket.ts'
import {
  countTry,
  deleteSession,
  deleteSessionOf,
  forgetTries,
  insertApiToken,
  insertSession,
  insertStaff,
  isBrowserOf,
  keepBrowser,
  manySessions,
  maybeSigningIn,
  maybeStaffOf,
  noteUse,
  type Staff,
} from './staff.queries.ts'
import type { StaffId } from '../base/ids.ts'

export type { Staff } from './staff.queries.ts'

const sessionHours = 12
/** Wrong PINs before a name waits, from one place. */
const freeTries = 5
/** The first wait; each wrong PIN after it doubles it, up to the longest. Seconds. */
const firstWaitS = 30
const longestWaitS = 900

// what a name that does not exist is verified against: as much work as one that does
let nobodysHash: Promise<string> | undefined

function tokenHash(token: string): Buffer {
  return createHash('sha256').update(token).digest()
}

export interface SigningIn {
  readonly name: string
  readonly pin: string
  /** Where it comes from. */
  readonly address: string
  /** What this browser was given when somebody signed in with it before. */
  readonly browser?: string | undefined
  /** The session this browser has now: it ends. */
  readonly session?: string | undefined
}

/**
 * Signs in by name and PIN; answers with a token of which only the hash is kept. Every try is counted before the PIN is
 * looked at, by name and address together; a browser that signed this name in before is counted apart, so that nobody
 * is locked out by others. A name that is not there costs as much and says the same.
 * @throws Problem `WrongPin`, `PinThrottled`
 */
export async function signIn(
  client: Client,
  { name, pin, address, browser, session }: SigningIn,
): Promise<{ token: string; browser: string; staff: Staff; maxAgeS: number }> {
  const row = await maybeSigningIn(client, name)
  const isKnown = row !== undefined && browser !== undefined && (await isBrowserOf(client, tokenHash(browser), row.id))
  const who = tokenHash(JSON.stringify([name.toLowerCase(), isKnown ? browser : address]))
  if (!(await countTry(client, who, { freeTries, firstWaitS, longestWaitS }))) throw new Problem('PinThrottled')
  nobodysHash ??= hash(randomBytes(16).toString('hex'))
  const isRight = await verify(row?.pin_hash ?? (await nobodysHash), pin)
  if (!row || !isRight) throw new Problem('WrongPin')
  await forgetTries(client, who)
  if (session) await deleteSession(client, tokenHash(session))
  const token = randomBytes(32).toString('base64url')
  await insertSession(client, { tokenHash: tokenHash(token), staffId: row.id, hours: sessionHours })
  const mark = isKnown ? browser! : randomBytes(32).toString('base64url')
  await keepBrowser(client, tokenHash(mark), row.id)
  return { token, browser: mark, staff: { id: row.id, name: row.name, initials: row.initials }, maxAgeS: sessionHours * 3600 }
}

export async function signOut(client: Client, token: string): Promise<void> {
  await deleteSession(client, tokenHash(token))
}

/** The sessions of a member of staff that are alive, the one that asks marked. */
export async function readSessions(client: Client, actor: Actor, token: string | undefined): Promise<SessionView[]> {
  const mine = token === undefined ? undefined : tokenHash(token)
  const rows = await manySessions(client, actor.id)
  return rows.map((row) => ({
    id: row.id,
    since: row.created_at.toISOString(),
    lastUsed: row.used_at.toISOString(),
    isThis: mine !== undefined && row.token_hash.equals(mine),
  }))
}

/** Ends a session of one's own. @throws Problem `NotFound` */
export async function endSession(client: Client, actor: Actor, id: number): Promise<void> {
  if ((await deleteSessionOf(client, actor.id, id)) === 0) throw new Problem('NotFound')
}

/** The member of staff a session's or a script's token belongs to. @param isUse somebody does something: the session is not idle */
export async function findStaff(
  client: Client,
  token: string,
  { by, isUse = false }: { by: 'session' | 'bearer'; isUse?: boolean },
): Promise<Staff | undefined> {
  const staff = await maybeStaffOf(client, tokenHash(token), by)
  if (staff && isUse && by === 'session') await noteUse(client, tokenHash(token))
  return staff
}

export async function addStaff(client: Client, { name, initials, pin }: { name: string; initials: string; pin: string }): Promise<Staff> {
  return insertStaff(client, { name, initials, pinHash: await hash(pin) })
}

export function addApiToken(client: Client, staffId: StaffId, token: string): Promise<void> {
  return insertApiToken(client, staffId, tokenHash(token))
}
