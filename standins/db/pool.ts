import { readFile, readdir } from 'node:fs/promises'
import pg from 'pg'

pg.types.setTypeParser(20, Number)

/** Opens the stand-ins' own database and brings its tables up to date. */
export async function openStandinDatabase(url: string): Promise<pg.Pool> {
  const pool = new pg.Pool({ connectionString: url, max: 12, application_name: 'corvend-standins' })
  // a server that restarts ends idle clients; the next query opens a new one
  pool.on('error', () => undefined)
  const client = await pool.connect()
  try {
    await client.query('create table if not exists migration (name text primary key)')
    const { rows } = await client.query<{ name: string }>('select name from migration')
    const done = new Set(rows.map((row) => row.name))
    const folder = new URL('.', import.meta.url)
    for (const name of (await readdir(folder)).filter((file) => file.endsWith('.sql')).sort()) {
      if (done.has(name)) continue
      await client.query('begin')
      await client.query(await readFile(new URL(name, folder), 'utf8'))
      await client.query('insert into migration (name) values ($1)', [name])
      await client.query('commit')
    }
  } finally {
    client.release()
  }
  return pool
}
