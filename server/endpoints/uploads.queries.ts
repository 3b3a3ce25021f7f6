import { change, many, maybeOne, one, type Client } from '../base/db/sql.ts'
import type { Upload } from './upload-store.ts'
import type { HoldingId } from '../base/ids.ts'

export interface UploadRow {
  id: HoldingId
  size_bytes: number
  /** What it holds, by kind. */
  kinds: Upload['kinds']
}

export function findUpload(client: Client, id: string): Promise<UploadRow | undefined> {
  return maybeOne<UploadRow>(
    client,
    `select id, size_bytes,
            case when kinds = '{}' then jsonb_build_object('contacts', jsonb_build_object('items', cards, 'sizeBytes', size_bytes, 'revision', revision)) else kinds end as kinds
       from upload where id = $1`,
    [id],
  )
}

export async function insertUpload(client: Client, upload: Upload): Promise<void> {
  await change(client, 'insert into upload (id, size_bytes, cards, revision, kinds, others) values ($1, $2, $3, $4, $5, $6)', [
    upload.id,
    upload.sizeBytes,
    upload.kinds.contacts?.items ?? 0,
    upload.kinds.contacts?.revision ?? upload.kinds.calendar?.revision ?? '',
    JSON.stringify(upload.kinds),
    upload.others,
  ])
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

/** What the files of tickets take. Bytes. */
export async function sumBooked(client: Client): Promise<number> {
  const { bytes } = await one<{ bytes: number }>(
    client,
    'select coalesce(sum(u.size_bytes), 0)::float8 as bytes from upload u where exists (select 1 from ticket_phone p where p.upload_id = u.id)',
  )
  return bytes
}

export async function isUploadKept(client: Client, id: string): Promise<boolean> {
  return (await maybeOne(client, 'select 1 from upload where id = $1', [id])) !== undefined
}

export async function deleteUploads(client: Client, ids: readonly string[]): Promise<void> {
  await change(client, 'delete from upload where id = any($1::uuid[])', [ids])
}
