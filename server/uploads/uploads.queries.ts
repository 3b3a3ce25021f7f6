import { maybeOne, type Client } from '../db/sql.ts'
import type { Upload } from './upload-store.ts'

export interface UploadRow {
  id: string
  key_wrapped: Buffer
  size_bytes: number
  cards: number
  revision: string
}

export function findUpload(client: Client, id: string): Promise<UploadRow | undefined> {
  return maybeOne<UploadRow>(client, 'select id, key_wrapped, size_bytes, cards, revision from upload where id = $1', [id])
}

export async function insertUpload(client: Client, upload: Upload): Promise<void> {
  await client.query('insert into upload (id, key_wrapped, size_bytes, cards, revision) values ($1, $2, $3, $4, $5)', [
    upload.id,
    upload.keyWrapped,
    upload.sizeBytes,
    upload.cards,
    upload.revision,
  ])
}
