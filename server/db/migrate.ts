import { readFile, readdir } from 'node:fs/promises'
import { runMigrations } from 'graphile-worker'
import pg from 'pg'

/**
 * Brings a database up to date as its owner, and gives the application's role what it needs and no more.
 * @throws Error when a landed migration was changed
 */
export async function migrate(ownerUrl: string, appUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl })
  await client.connect()
  const appRole = new URL(appUrl).username
  try {
    await client.query('create table if not exists migration (name text primary key, at timestamptz not null default now())')
    const { rows } = await client.query<{ name: string }>('select name from migration')
    const done = new Set(rows.map((row) => row.name))
    const folder = new URL('migrations/', import.meta.url)
    for (const name of (await readdir(folder)).sort()) {
      if (done.has(name)) continue
      await client.query('begin')
      await client.query(await readFile(new URL(name, folder), 'utf8'))
      await client.query('insert into migration (name) values ($1)', [name])
      await client.query('commit')
    }
    const role = pg.escapeIdentifier(appRole)
    await client.query(`grant usage on schema public to ${role}`)
    await client.query(`grant select, insert, update, delete on all tables in schema public to ${role}`)
    await client.query(`grant usage, select on all sequences in schema public to ${role}`)
    // append-only: who was shown a customer's data is not the application's to rewrite
    await client.query(`revoke update, delete, truncate on showing from ${role}`)
    await client.query(`revoke insert, update, delete on migration from ${role}`)
  } finally {
    await client.end()
  }
  await runMigrations({ connectionString: appUrl })
}
