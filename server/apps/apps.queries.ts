import { many, one, type Client } from '../db/sql.ts'

/** Apps bound to the old phone, and how many nobody moved by hand yet. */
export function countTied(client: Client, ticketId: number): Promise<{ all: number; open: number }> {
  return one<{ all: number; open: number }>(
    client,
    `select count(*)::int as all, count(*) filter (where m.native is null)::int as open
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join tied_moved m on m.ticket_id = e.ticket_id and m.native = e.native
      where e.ticket_id = $1 and e.kind = 'apps' and i.shape ? 'tied'`,
    [ticketId],
  )
}

export interface AppEntry {
  seq: number
  reading_id: number
  block: number
  slot: number
  native: Buffer
  fate: string
  reasons: string[]
  is_there: boolean
  is_moved: boolean
}

/** Every app of the old phone; a customer has some dozens. */
export function manyApps(client: Client, ticketId: number, seq: number | null = null): Promise<AppEntry[]> {
  return many<AppEntry>(
    client,
    `select e.seq, e.reading_id, i.block, i.slot, e.native, e.fate, e.reasons, e.is_there, m.native is not null as is_moved
       from entry e
       join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
       left join tied_moved m on m.ticket_id = e.ticket_id and m.native = e.native
      where e.ticket_id = $1 and e.kind = 'apps' and ($2::int is null or e.seq = $2)
      order by e.seq
      limit 1000`,
    [ticketId, seq],
  )
}

export async function setMoved(
  client: Client,
  { ticketId, native, isMoved, staffId }: { ticketId: number; native: Buffer; isMoved: boolean; staffId: number },
): Promise<void> {
  if (isMoved)
    await client.query('insert into tied_moved (ticket_id, native, staff_id) values ($1, $2, $3) on conflict do nothing', [
      ticketId,
      native,
      staffId,
    ])
  else await client.query('delete from tied_moved where ticket_id = $1 and native = $2', [ticketId, native])
}

/** An app's counterpart is another one now, or none. */
export async function setCounterpart(
  client: Client,
  {
    ticketId,
    seq,
    fate,
    expected,
    reasons,
    hasLoss,
  }: {
    ticketId: number
    seq: number
    fate: 'pending' | 'cannotCross'
    expected: Buffer | null
    reasons: readonly string[]
    hasLoss: boolean
  },
): Promise<void> {
  await client.query(
    `update entry
        set fate = case when $3 = 'pending' and not is_chosen then 'notChosen' else $3 end, expected = $4, reasons = $5, has_change = $3 = 'pending', has_loss = $6, is_there = false, made = null
      where ticket_id = $1 and kind = 'apps' and seq = $2`,
    [ticketId, seq, fate, expected, reasons, hasLoss],
  )
}
