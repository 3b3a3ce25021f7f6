import { change, many, maybeOne, one, type Client } from '../../base/db/sql.ts'
import type { CopyId, HoldingId, TicketId } from '../../base/ids.ts'

export interface ArchiveRow {
  copy_id: CopyId
  /** Null once its hour is over. */
  blob: string | null
  size_bytes: number
  writes: number
  kinds: Record<string, ArchiveKind>
  files: number
  /** The beginning of its list's digest, in hex. */
  mark: string
  has_password: boolean
  made_at: Date
  keep_until: Date
  taken_at: Date | null
}
/** What an archive holds of a kind: how many records its file has, and the digest of that file and those beside it. */
export interface ArchiveKind {
  readonly items: number
  readonly bytes: number
  readonly digest: string
  /** How often the kind had been written to. */
  readonly writes: number
}

export function maybeArchive(client: Client, id: CopyId): Promise<ArchiveRow | undefined> {
  return maybeOne<ArchiveRow>(
    client,
    `select copy_id, blob, size_bytes, writes, kinds, files, mark, has_password, made_at, keep_until, taken_at from archive where copy_id = $1`,
    [id],
  )
}

/** How often a copy was written to, all its kinds together. */
export async function countWrites(client: Client, id: CopyId): Promise<number> {
  return (await one<{ n: number }>(client, 'select coalesce(sum(writes), 0)::int as n from copy_kind where copy_id = $1', [id])).n
}

export async function setArchive(
  client: Client,
  { copy_id, blob, size_bytes, writes, kinds, files, mark, has_password }: Omit<ArchiveRow, 'made_at' | 'keep_until' | 'taken_at'>,
  hours: number,
): Promise<void> {
  await change(
    client,
    `insert into archive (copy_id, blob, size_bytes, writes, kinds, files, has_password, mark, keep_until)
     values ($1, $2, $3, $4, $5, $6, $7, $8, now() + make_interval(hours => $9))
     on conflict (copy_id) do update
        set blob = excluded.blob, size_bytes = excluded.size_bytes, writes = excluded.writes, kinds = excluded.kinds,
            files = excluded.files, mark = excluded.mark, has_password = excluded.has_password, made_at = now(), keep_until = excluded.keep_until,
            taken_at = null`,
    [copy_id, blob, size_bytes, writes, JSON.stringify(kinds), files, has_password, mark, hours],
  )
}

/** An archive that stands no more: whoever reads the copy back makes it anew. */
export async function clearArchive(client: Client, id: CopyId): Promise<void> {
  await change(client, 'update archive set blob = null where copy_id = $1', [id])
}

/** Archives whose hour is over. */
export function manyOver(client: Client): Promise<{ copy_id: CopyId; holding: HoldingId; blob: string }[]> {
  return many(
    client,
    `select a.copy_id, c.holding_id as holding, a.blob
       from archive a
       join locker_copy c on c.id = a.copy_id
      where a.blob is not null and a.keep_until <= now() and c.holding_id is not null
        -- what is being read back stays until it was
        and not exists (select 1 from run r where r.ticket_id = c.ticket_id and r.state in ('waiting', 'running', 'paused', 'held'))`,
  )
}

/** What an archive is to be locked with, sealed by the ticket's key. */
export function maybePassword(
  client: Client,
  id: CopyId,
): Promise<{ sealed: Buffer | null; holding: HoldingId | null; created_at: Date } | undefined> {
  return maybeOne(
    client,
    `select p.archive_password as sealed, t.holding_id as holding, t.created_at
       from ticket_phone p
       join ticket t on t.id = p.ticket_id
      where p.copy_id = $1 and p.side = 'new' and t.erased_at is null`,
    [id],
  )
}

export async function setPassword(client: Client, ticketId: TicketId, sealed: Buffer | null): Promise<void> {
  await change(client, `update ticket_phone set archive_password = $2 where ticket_id = $1 and side = 'new'`, [ticketId, sealed])
}

export async function noteTaken(client: Client, id: CopyId): Promise<void> {
  await change(client, 'update archive set taken_at = coalesce(taken_at, now()) where copy_id = $1', [id])
}
