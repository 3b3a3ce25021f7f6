import type { SheetView } from '#contracts/http/ticket.ts'
import { change, maybeOne, type Client } from '../../base/db/sql.ts'

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
  ticketId: number,
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

/** The sheet that was signed last. */
export function maybeSheet(client: Client, ticketId: number): Promise<SheetRow | undefined> {
  return maybeOne<SheetRow>(
    client,
    'select signed_at, digest, clear, sealed, figures from sheet where ticket_id = $1 order by id desc limit 1',
    [ticketId],
  )
}
