import { createHash } from 'node:crypto'
import { readFile, readdir } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { runMigrations } from 'graphile-worker'
import pg from 'pg'

/** Who brings a database up to date holds it; another process that starts beside it waits. */
const migrationLock = 4_672_010

/**
 * Brings a database up to date as its owner, and gives the application's role what it needs and no more. Processes
 * that start side by side take turns.
 * @throws Error when a landed migration was changed, or one this version does not know was applied
 */
export async function migrate(ownerUrl: string, appUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl })
  await client.connect()
  const appRole = new URL(appUrl).username
  try {
    await client.query('select pg_advisory_lock($1)', [migrationLock])
    await client.query('create table if not exists migration (name text primary key, at timestamptz not null default now())')
    await client.query('alter table migration add column if not exists checksum text')
    await applyMigrations(client)
    const role = pg.escapeIdentifier(appRole)
    await client.query(`grant usage on schema public to ${role}`)
    await client.query(`grant select, insert, update, delete on all tables in schema public to ${role}`)
    await client.query(`grant usage, select on all sequences in schema public to ${role}`)
    // append-only: who was shown a customer's data is not the application's to rewrite
    await client.query(`revoke update, delete, truncate on showing from ${role}`)
    // nor is who did what; words go with the key of their ticket
    await client.query(`revoke update, delete, truncate on ticket_act from ${role}`)
    await client.query(`grant update (words) on ticket_act to ${role}`)
    await client.query(`revoke update, delete, truncate on shop_change from ${role}`)
    await client.query(`revoke insert, update, delete on migration from ${role}`)
    await runMigrations({ connectionString: appUrl })
  } finally {
    // the lock goes with the connection
    await client.end()
  }
}

async function applyMigrations(client: pg.Client): Promise<void> {
  const { rows } = await client.query<{ name: string; checksum: string | null }>('select name, checksum from migration')
  const done = new Map(rows.map((row) => [row.name, row.checksum]))
  // from the application's folder: what is bundled has none beside it
  const folder = resolve('server/base/db/migrations')
  const names = (await readdir(folder)).sort()
  for (const name of done.keys())
    if (!names.includes(name)) throw new Error(`This database was made by a newer version of Corvend: it holds ${name}.`)
  for (const name of names) {
    const text = await readFile(join(folder, name), 'utf8')
    const checksum = createHash('sha256').update(text).digest('hex')
    const known = done.get(name)
    if (known === checksum) continue
    // applied before checksums were kept
    if (known === null) {
      await client.query('update migration set checksum = $2 where name = $1', [name, checksum])
      continue
    }
    if (known !== undefined)
      throw new Error(`The migration ${name} was changed after it was applied. Put it back as it was, and write a new one.`)
    await client.query('begin')
    try {
      await client.query(text)
      await client.query('insert into migration (name, checksum) values ($1, $2)', [name, checksum])
      await client.query('commit')
    } catch (error) {
      await client.query('rollback')
      throw error
    }
  }
}
