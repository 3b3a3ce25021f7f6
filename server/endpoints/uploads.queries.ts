import { change, maybeOne, type Client } from '../base/db/sql.ts'
import type { Upload } from './upload-store.ts'

export interface UploadRow {
  id: string
  key_wrapped: Buffer
  size_bytes: number
  /** What it holds, by kind. */
  kinds: Upload['kinds']
}

export function findUpload(client: Client, id: string): Promise<UploadRow | undefined> {
  return maybeOne<UploadRow>(
    client,
    `select id, key_wrapped, size_bytes,
            case when kinds = '{}' then jsonb_build_object('contacts', jsonb_build_object('items', cards, 'sizeBytes', size_bytes, 'revision', revision)) else kinds end as kinds
       from upload where id = $1`,
    [id],
  )
}

export async function insertUpload(client: Client, upload: Upload): Promise<void> {
  await change(
    client,
    'insert into upload (id, key_wrapped, size_bytes, cards, revision, kinds, others) values ($1, $2, $3, $4, $5, $6, $7)',
    [
      upload.id,
      upload.keyWrapped,
      upload.sizeBytes,
      upload.kinds.contacts?.items ?? 0,
      upload.kinds.contacts?.revision ?? upload.kinds.calendar?.revision ?? '',
      JSON.stringify(upload.kinds),
      upload.others,
    ],
  )
}

export async function deleteUploads(client: Client, ids: readonly string[]): Promise<void> {
  await change(client, 'delete from upload where id = any($1::uuid[])', [ids])
}
