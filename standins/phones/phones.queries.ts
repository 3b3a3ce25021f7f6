import type pg from 'pg'
import type { PhoneRow } from './phone.ts'

/** The revision of a kind, one further. */
const bumped = (kind: string) =>
  `jsonb_set(kind_revisions, array[${kind}::text], to_jsonb(coalesce((kind_revisions->>${kind})::int, 0) + 1))`

export async function countPhones(pool: pg.Pool): Promise<number> {
  const { rows } = await pool.query<{ n: number }>('select count(*) as n from phone')
  return rows[0]!.n
}

export async function manyPhones(pool: pg.Pool): Promise<PhoneRow[]> {
  return (await pool.query<PhoneRow>('select * from phone order by position, serial')).rows
}

export async function manyPluggedPhones(pool: pg.Pool): Promise<PhoneRow[]> {
  return (await pool.query<PhoneRow>('select * from phone where port is not null')).rows
}

export async function findPhone(pool: pg.Pool, serial: string): Promise<PhoneRow | undefined> {
  return (await pool.query<PhoneRow>('select * from phone where serial = $1', [serial])).rows[0]
}

export interface RestlessRow extends PhoneRow {
  is_overdue: boolean
  wants_overdue: boolean
  is_idle: boolean
}

/** Phones with which something happens by itself, and what is due. */
export async function manyRestlessPhones(pool: pg.Pool): Promise<RestlessRow[]> {
  const { rows } = await pool.query<RestlessRow>(
    `select *,
            trust = 'asked' and not is_locked and asked_since + make_interval(secs => prompt_ms / 1000.0) < now() as is_overdue,
            wants is not null and wants_since + make_interval(secs => prompt_ms / 1000.0) < now() as wants_overdue,
            not is_locked and setup = 'set-up' and locks_after_ms is not null
              and touched_at + make_interval(secs => locks_after_ms / 1000.0) < now() as is_idle
       from phone
      where trust = 'asked' or wants is not null or locks_after_ms is not null or is_live or sync_left > 0 or temperature > 27`,
  )
  return rows
}

/** Puts a phone on the shelf; what is not said is as the tables have it. Columns are ours, never a caller's. */
export async function insertPhone(pool: pg.Pool, phone: Partial<PhoneRow>): Promise<void> {
  const { position, ...rest } = phone
  const { names, values } = columnsOf(rest)
  await pool.query(
    `insert into phone (position, ${names.join(', ')})
     values (coalesce($1::int, (select coalesce(max(position), 0) + 1 from phone)), ${names.map((_, i) => `$${i + 2}`).join(', ')})`,
    [position ?? null, ...values],
  )
}

export async function deletePhone(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('delete from phone where serial = $1', [serial])
}

/** Changes columns of a phone; names are ours, never a caller's. */
export async function changePhone(pool: pg.Pool, serial: string, change: Partial<PhoneRow>): Promise<void> {
  const { names, values } = columnsOf(change)
  if (names.length === 0) return
  await pool.query(`update phone set ${names.map((name, i) => `${name} = $${i + 2}`).join(', ')} where serial = $1`, [serial, ...values])
}

function columnsOf(phone: Partial<PhoneRow>): { names: string[]; values: unknown[] } {
  const entries = Object.entries(phone)
  return {
    names: entries.map(([name]) => name),
    values: entries.map(([name, value]) =>
      ['switches', 'wants', 'kind_revisions'].includes(name) && value !== null ? JSON.stringify(value) : value,
    ),
  }
}

export async function addSwitches(pool: pg.Pool, serial: string, more: Readonly<Record<string, boolean>>): Promise<void> {
  await pool.query('update phone set switches = switches || $2 where serial = $1', [serial, JSON.stringify(more)])
}

export async function manyTakenPorts(pool: pg.Pool, exceptSerial: string): Promise<number[]> {
  const { rows } = await pool.query<{ port: number }>('select port from phone where port is not null and serial <> $1', [exceptSerial])
  return rows.map(({ port }) => port)
}

/** Asks whether the computer is trusted; false when somebody pressed Trust meanwhile. */
export async function askForTrust(pool: pg.Pool, serial: string): Promise<boolean> {
  const { rowCount } = await pool.query(
    `update phone set trust = 'asked', asked_since = now()
      where serial = $1 and trust <> 'trusted'`,
    [serial],
  )
  return (rowCount ?? 0) > 0
}

export async function refuseTrust(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query(`update phone set trust = 'refused' where serial = $1 and trust = 'asked'`, [serial])
}

/** Trust that was for once ends with the cable, and so does a question. */
export async function endTrustOnce(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query(
    `update phone
        set trust = case when trust = 'trusted' and not trust_once then trust else 'none' end,
            trust_once = false
      where serial = $1`,
    [serial],
  )
}

export async function showMark(pool: pg.Pool, serial: string, text: string): Promise<void> {
  await pool.query(`update phone set marked_until = now() + interval '20 seconds', marked_text = $2 where serial = $1`, [serial, text])
}

export async function touchPhone(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('update phone set touched_at = now() where serial = $1', [serial])
}

/** Something in it is another than before. */
export async function bumpPhone(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('update phone set revision = revision + 1 where serial = $1', [serial])
}

export async function bumpKind(pool: pg.Pool, serial: string, kind: string): Promise<void> {
  await pool.query(`update phone set kind_revisions = ${bumped('$2')} where serial = $1`, [serial, kind])
}

/** Keeps so many numbers for records that come; the first of them. */
export async function reserveIds(pool: pg.Pool, serial: string, kind: string, n: number): Promise<number> {
  const { rows } = await pool.query<{ first: number }>(
    `update phone set next_id = next_id + $2, kind_revisions = ${bumped('$3')}
      where serial = $1
     returning next_id - $2 as first`,
    [serial, n, kind],
  )
  return rows[0]!.first
}

/** One number for a record its owner or an account adds. */
export async function nextId(pool: pg.Pool, serial: string): Promise<number> {
  const { rows } = await pool.query<{ id: number }>(
    'update phone set next_id = next_id + 1 where serial = $1 returning next_id - 1 as id',
    [serial],
  )
  return rows[0]!.id
}

/** The phone's own earlier contents reach up to this number. */
export async function setNextId(pool: pg.Pool, serial: string, next: number): Promise<void> {
  await pool.query('update phone set next_id = $2, revision = revision + 1 where serial = $1', [serial, next])
}

/** What a write leaves behind: less room, and more heat. */
export async function endWrite(pool: pg.Pool, serial: string, freeBytes: number): Promise<void> {
  await pool.query('update phone set free_bytes = $2, temperature = temperature + heat_per_write where serial = $1', [serial, freeBytes])
}

export async function giveRoomBack(pool: pg.Pool, serial: string, bytes: number): Promise<void> {
  await pool.query('update phone set free_bytes = free_bytes + $2 where serial = $1', [serial, bytes])
}
