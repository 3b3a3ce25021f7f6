import { change, maybeOne, type Client } from '../../base/db/sql.ts'

export interface InstallPageRow {
  sealed: Buffer
  ends_at: Date
}

/** Keeps a page until its date, and lets those go whose date is over. */
export async function insertPage(
  client: Client,
  { codeHash, sealed, days }: { codeHash: Buffer; sealed: Buffer; days: number },
): Promise<void> {
  await change(client, 'delete from install_page where ends_at < now()')
  await change(client, 'insert into install_page (code_hash, sealed, ends_at) values ($1, $2, now() + make_interval(days => $3))', [
    codeHash,
    sealed,
    days,
  ])
}

/** A page whose date is not over. */
export function maybePage(client: Client, codeHash: Buffer): Promise<InstallPageRow | undefined> {
  return maybeOne<InstallPageRow>(client, 'select sealed, ends_at from install_page where code_hash = $1 and ends_at > now()', [codeHash])
}
