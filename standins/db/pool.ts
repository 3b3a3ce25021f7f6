import { createHash } from 'node:crypto'
import { readFile, readdir } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import pg from 'pg'

pg.types.setTypeParser(20, Number)

const migrationLock = 4_672_020

/** Opens the stand-ins' own database and brings its tables up to date. @throws Error when a landed migration was changed */
export async function openStandinDatabase(url: string): Promise<pg.Pool> {
  const pool = new pg.Pool({ connectionString: url, max: 12, application_name: 'corvend-standins' })
  // a server that restarts ends idle clients; the next query opens a new one
  pool.on('error', () => undefined)
  const client = await pool.connect()
  try {
    await client.query('begin')
    await client.query('select pg_advisory_xact_lock($1)', [migrationLock])
    await client.query('create table if not exists migration (name text primary key)')
    await client.query('alter table migration add column if not exists checksum text')
    const { rows } = await client.query<{ name: string; checksum: string | null }>('select name, checksum from migration')
    const done = new Map(rows.map((row) => [row.name, row.checksum]))
    // from the application's folder: what is bundled has none beside it
    const folder = resolve('standins/db')
    for (const name of (await readdir(folder)).filter((file) => file.endsWith('.sql')).sort()) {
      const text = await readFile(join(folder, name), 'utf8')
      const checksum = createHash('sha256').update(text).digest('hex')
      const known = done.get(name)
      if (known !== undefined && known !== null && known !== checksum)
        throw new Error(`The stand-ins’ migration ${name} was changed after it was applied.`)
      if (known === undefined) await client.query(text)
      await client.query(
        'insert into migration (name, checksum) values ($1, $2) on conflict (name) do update set checksum = excluded.checksum',
        [name, checksum],
      )
    }
    await client.query('commit')
  } catch (error) {
    await client.query('rollback')
    throw error
  } finally {
    client.release()
  }
  return pool
}
