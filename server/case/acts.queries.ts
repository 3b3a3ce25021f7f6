import type { ActCode } from '#contracts/http/course.ts'
import { change, many, type Client } from '../base/db/sql.ts'
import type { Did } from '../base/did.ts'
import type { RunId, StaffId, TicketId } from '../base/ids.ts'

/** Adds to the course of a ticket. @param staffId null for the house itself */
export async function insertAct(client: Client, ticketId: TicketId, staffId: StaffId | null, did: Did): Promise<void> {
  await change(
    client,
    `insert into ticket_act (ticket_id, staff_id, what, side, kind, code, why, to_staff_id, phone, n, of_n, words, has_words)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)`,
    [
      ticketId,
      staffId,
      did.what,
      did.side ?? null,
      did.kind ?? null,
      did.code ?? null,
      did.why ?? null,
      did.toStaffId ?? null,
      did.phone ?? null,
      did.n ?? null,
      did.of ?? null,
      did.words ?? null,
      did.words !== undefined,
    ],
  )
}

/** What a run comes to by itself. A run that waits for the same thing, looked at again and again, is noted once. */
export async function insertRunAct(
  client: Client,
  runId: RunId,
  { what, side, why }: { what: 'ended' | 'waits'; side?: 'old' | 'new' | null; why?: string },
): Promise<void> {
  await change(
    client,
    `insert into ticket_act (ticket_id, what, code, side, why, kind, n, of_n)
     select r.ticket_id, $2, r.type, $3, $4, case $2 when 'waits' then r.kind end,
            case when r.unit = 'items' then r.done end, case when r.unit = 'items' then r.total end
       from run r
      where r.id = $1
        and not exists (
          select 1
            from (select what, code, side, why from ticket_act where ticket_id = r.ticket_id order by id desc limit 1) last
           where (last.what, last.code, last.side, last.why) is not distinct from ($2, r.type, $3, $4))`,
    [runId, what, side ?? null, why ?? null],
  )
}

export interface ActRow {
  what: ActCode
  at: Date
  by: string | null
  side: 'old' | 'new' | null
  kind: string | null
  code: string | null
  why: string | null
  to: string | null
  phone: string | null
  n: number | null
  of: number | null
  words: Buffer | null
  has_words: boolean
}

const columns = `a.what, a.at, s.name as by, a.side, a.kind, a.code, a.why, t.name as to, a.phone, a.n, a.of_n as of, a.words, a.has_words`

/** The course of a ticket, the oldest first. @param only of it what is named; all else */
export function manyActs(client: Client, ticketId: TicketId, only: readonly ActCode[] | null = null): Promise<ActRow[]> {
  return many<ActRow>(
    client,
    `select ${columns}
       from ticket_act a
       left join staff s on s.id = a.staff_id
       left join staff t on t.id = a.to_staff_id
      where a.ticket_id = $1 and ($2::text[] is null or a.what = any($2))
      order by a.id`,
    [ticketId, only],
  )
}

/** The last note of each ticket, sealed. */
export function manyLastNotes(client: Client, ticketIds: readonly TicketId[]): Promise<{ ticket_id: TicketId; words: Buffer }[]> {
  return many(
    client,
    `select distinct on (ticket_id) ticket_id, words
       from ticket_act
      where ticket_id = any($1::bigint[]) and what = 'note' and words is not null
      order by ticket_id, id desc`,
    [ticketIds],
  )
}
