import { change, many, maybeOne, type Client } from '../base/db/sql.ts'
import type { Upload } from './upload-store.ts'
import type { HoldingId } from '../base/ids.ts'

export interface UploadRow {
  id: HoldingId
  size_bytes: number
  /** What it holds, by kind. */
  kinds: Upload['kinds']
}

export function findUpload(client: Client, id: string): Promise<UploadRow | undefined> {
  return maybeOne<UploadRow>(client, 'select id, size_bytes, kinds from upload where id = $1', [id])
}

/** Keeps what was dropped: a holding, and what it holds. */
export async function insertUpload(client: Client, upload: Upload): Promise<void> {
  await change(
    client,
    `with holding as (insert into holding (id, purpose) values ($1, 'file') returning id)
     insert into upload (id, size_bytes, kinds, others) select id, $2, $3, $4 from holding`,
    [upload.id, upload.sizeBytes, JSON.stringify(upload.kinds), upload.others],
  )
}

/** What nobody booked within so many minutes. */
export async function manyUnbooked(client: Client, minutes: number): Promise<HoldingId[]> {
  const rows = await many<{ id: HoldingId }>(
    client,
    `select u.id from upload u
      where u.created_at < now() - make_interval(mins => $1)
        and not exists (select 1 from ticket_phone p where p.upload_id = u.id)`,
    [minutes],
  )
  return rows.map(({ id }) => id)
}

/** Which of these holdings are files that nobody booked yet, or that are just being dropped. */
export async function manyWaiting(client: Client, ids: readonly HoldingId[]): Promise<HoldingId[]> {
  const rows = await many<{ id: HoldingId }>(
    client,
    `select s.id::text as id
       from unnest($1::uuid[]) as s(id)
      where not exists (select 1 from ticket_phone p where p.upload_id = s.id) and not exists (select 1 from locker l where l.holding_id = s.id)`,
    [ids],
  )
  return rows.map(({ id }) => id)
}
