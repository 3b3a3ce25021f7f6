import { many, type Client } from '../base/db/sql.ts'
import type { StaffId, TicketId } from '../base/ids.ts'

export interface MarkRow {
  ticket_id: TicketId
  side: 'old' | 'new'
  code: string
  how: 'ticked' | 'waived'
  reason: string | null
}

export interface ReportRow {
  ticket_id: TicketId
  side: 'old' | 'new'
  code: string
  first_met: boolean
  is_met: boolean
  since: Date
  changed_at: Date | null
}

export interface PutBackRow {
  ticket_id: TicketId
  side: 'old' | 'new'
  code: string
  how: 'ticked' | 'waived'
  by_name: Buffer | null
  at: Date
}

export function manyMarks(client: Client, ticketIds: readonly TicketId[]): Promise<MarkRow[]> {
  return many<MarkRow>(client, `select ticket_id, side, code, how, reason from need_mark where ticket_id = any($1::bigint[])`, [ticketIds])
}

export function manyReports(client: Client, ticketIds: readonly TicketId[]): Promise<ReportRow[]> {
  return many<ReportRow>(
    client,
    `select ticket_id, side, code, first_met, is_met, since, changed_at from need_report where ticket_id = any($1::bigint[])`,
    [ticketIds],
  )
}

export function manyPutBacks(client: Client, ticketIds: readonly TicketId[]): Promise<PutBackRow[]> {
  return many<PutBackRow>(client, `select ticket_id, side, code, how, by_name, at from put_back where ticket_id = any($1::bigint[])`, [
    ticketIds,
  ])
}

/** Notes what a phone reports; answers how many facts are new or changed. What it said first stays. */
export async function upsertReport(
  client: Client,
  { ticketId, side, facts }: { ticketId: TicketId; side: string; facts: readonly { need: string; isMet: boolean }[] },
): Promise<number> {
  const { rowCount } = await client.query(
    `insert into need_report (ticket_id, side, code, first_met, is_met)
     select $1, $2, f.code, f.met, f.met from unnest($3::text[], $4::boolean[]) as f(code, met)
     on conflict (ticket_id, side, code) do update
        set is_met = excluded.is_met, since = now(), changed_at = now()
      where need_report.is_met <> excluded.is_met`,
    [ticketId, side, facts.map((f) => f.need), facts.map((f) => f.isMet)],
  )
  return rowCount ?? 0
}

export async function putMark(client: Client, mark: Omit<MarkRow, 'ticket_id'> & { ticketId: TicketId; staffId: StaffId }): Promise<void> {
  await client.query(
    `insert into need_mark (ticket_id, side, code, how, reason, staff_id) values ($1, $2, $3, $4, $5, $6)
     on conflict (ticket_id, side, code) do update set how = excluded.how, reason = excluded.reason, staff_id = excluded.staff_id, at = now()`,
    [mark.ticketId, mark.side, mark.code, mark.how, mark.reason, mark.staffId],
  )
}

export async function dropMark(
  client: Client,
  { ticketId, side, code }: { ticketId: TicketId; side: string; code: string },
): Promise<void> {
  await client.query(`delete from need_mark where ticket_id = $1 and side = $2 and code = $3`, [ticketId, side, code])
}

export async function putPutBack(
  client: Client,
  row: { ticketId: TicketId; side: string; code: string; how: 'ticked' | 'waived'; byName: Buffer | null; staffId: StaffId },
): Promise<void> {
  await client.query(
    `insert into put_back (ticket_id, side, code, how, by_name, staff_id) values ($1, $2, $3, $4, $5, $6)
     on conflict (ticket_id, side, code) do update set how = excluded.how, by_name = excluded.by_name, staff_id = excluded.staff_id, at = now()`,
    [row.ticketId, row.side, row.code, row.how, row.byName, row.staffId],
  )
}

/** What was seen and said of a side's phone goes with the phone when another takes its place. */
export async function forgetSide(client: Client, ticketId: TicketId, side: 'old' | 'new'): Promise<void> {
  await client.query(`delete from need_report where ticket_id = $1 and side = $2`, [ticketId, side])
  await client.query(`delete from need_mark where ticket_id = $1 and side = $2`, [ticketId, side])
  await client.query(`delete from put_back where ticket_id = $1 and side = $2`, [ticketId, side])
}
