import type { SheetView } from '#contracts/http/ticket.ts'
import { insertAct } from '../case/acts.queries.ts'
import { change, many, maybeOne, type Client } from '../base/db/sql.ts'
import type { TicketId } from '../base/ids.ts'

export interface SheetRow {
  signed_at: Date
  digest: Buffer
  /** Without a word of the customer's. */
  clear: SheetView
  sealed: Buffer
  /** Digest of the figures as they stood once it was signed. */
  figures: Buffer
}

/** Keeps a signed sheet beside those before it. */
export async function insertSheet(
  client: Client,
  ticketId: TicketId,
  { digest, clear, sealed, figures }: Omit<SheetRow, 'signed_at'>,
): Promise<void> {
  await change(client, 'insert into sheet (ticket_id, digest, clear, sealed, figures) values ($1, $2, $3, $4, $5)', [
    ticketId,
    digest,
    JSON.stringify(clear),
    sealed,
    figures,
  ])
}

/** The sheet that is in force. */
export function maybeSheet(client: Client, ticketId: TicketId): Promise<SheetRow | undefined> {
  return maybeOne<SheetRow>(
    client,
    'select signed_at, digest, clear, sealed, figures from sheet where ticket_id = $1 and voided_at is null',
    [ticketId],
  )
}

export interface VoidRow {
  signed_at: Date
  voided_at: Date
  digest: Buffer
}

/** Sheets that were signed and are void, the last first. */
export function manyVoidSheets(client: Client, ticketId: TicketId): Promise<VoidRow[]> {
  return many<VoidRow>(
    client,
    'select signed_at, voided_at, digest from sheet where ticket_id = $1 and voided_at is not null order by id desc',
    [ticketId],
  )
}

/** The sheet in force is void from now on: kept, but nothing is signed and nothing printed. */
export async function voidSheet(client: Client, ticketId: TicketId): Promise<void> {
  const voided = await change(client, 'update sheet set voided_at = now() where ticket_id = $1 and voided_at is null', [ticketId])
  if (voided > 0) await insertAct(client, ticketId, null, { what: 'voided' })
  await change(client, 'update ticket set signed_by = null, signed_at = null, signed_open = false, printed_at = null where id = $1', [
    ticketId,
  ])
}
