import type pg from 'pg'
import { announce } from './live.ts'
import { altered, findPhone, type PhoneRow } from './store.ts'

/** What a hand can do to a phone; each answers with the phone as it is then. */
export const handActs = {
  async plug(pool: pg.Pool, serial: string, { port }: { port?: number }) {
    const used = await pool.query<{ port: number }>('select port from phone where port is not null and serial <> $1', [serial])
    const taken = new Set(used.rows.map((row) => row.port))
    const free = port ?? [1, 2, 3, 4, 5, 6, 7, 8].find((p) => !taken.has(p))
    if (free === undefined || taken.has(free)) throw new HandRefused('port-taken')
    await pool.query(
      `update phone
          set port = $2, is_charging = true,
              trust = case when trust = 'trusted' then trust else 'asked' end,
              asked_since = case when trust = 'trusted' then asked_since else now() end
        where serial = $1`,
      [serial, free],
    )
    announce({ event: 'plugged', port: free, serial })
  },
  async pull(pool: pg.Pool, serial: string) {
    await pool.query(`update phone set port = null, is_charging = false, trust = case when trust = 'trusted' then trust else 'none' end where serial = $1`, [serial])
    announce({ event: 'pulled', serial })
  },
  async lock(pool: pg.Pool, serial: string) {
    await pool.query('update phone set is_locked = true, asked_since = now() where serial = $1', [serial])
    announce({ event: 'locked', serial })
  },
  async unlock(pool: pg.Pool, serial: string) {
    await pool.query('update phone set is_locked = false where serial = $1', [serial])
    announce({ event: 'unlocked', serial })
  },
  async trust(pool: pg.Pool, serial: string) {
    const { rows } = await pool.query<{ is_locked: boolean; trust: string }>('select is_locked, trust from phone where serial = $1', [serial])
    if (rows[0]?.is_locked) throw new HandRefused('locked')
    if (rows[0]?.trust !== 'asked') throw new HandRefused('nothing-asked')
    await pool.query(`update phone set trust = 'trusted' where serial = $1`, [serial])
    announce({ event: 'answered', serial })
  },
  async refuse(pool: pg.Pool, serial: string) {
    await pool.query(`update phone set trust = 'refused' where serial = $1 and trust = 'asked'`, [serial])
    announce({ event: 'answered', serial })
  },
  async set(pool: pg.Pool, serial: string, values: Partial<PhoneRow>) {
    const allowed = ['allows_contacts', 'battery', 'is_charging', 'free_bytes', 'temperature', 'settle_ms', 'drops_when_full', 'joins_equal'] as const
    for (const name of allowed) {
      if (values[name] !== undefined) await pool.query(`update phone set ${name} = $2 where serial = $1`, [serial, values[name]])
    }
    announce({ event: 'changed', serial })
  },
  async mark(pool: pg.Pool, serial: string) {
    await pool.query(`update phone set marked_until = now() + interval '20 seconds' where serial = $1`, [serial])
    announce({ event: 'changed', serial })
  },
  async 'break-record'(pool: pg.Pool, serial: string, { id, damage }: { id?: number; damage?: string }) {
    await pool.query('update record set damage = $3 where serial = $1 and id = $2', [serial, id, damage ?? 'cut-card'])
    await pool.query('update phone set revision = revision + 1 where serial = $1', [serial])
    announce({ event: 'changed', serial })
  },
  async 'edit-record'(pool: pg.Pool, serial: string, { id }: { id?: number }) {
    const { rows } = await pool.query<{ data: object }>('select data from record where serial = $1 and id = $2', [serial, id])
    if (!rows[0]) throw new HandRefused('no-such-record')
    await pool.query('update record set data = $3, revision = revision + 1 where serial = $1 and id = $2', [serial, id, JSON.stringify(altered(rows[0].data))])
    await pool.query('update phone set revision = revision + 1 where serial = $1', [serial])
    announce({ event: 'changed', serial })
  },
  async 'delete-record'(pool: pg.Pool, serial: string, { id }: { id?: number }) {
    await pool.query('delete from record where serial = $1 and id = $2', [serial, id])
    await pool.query('update phone set revision = revision + 1 where serial = $1', [serial])
    announce({ event: 'changed', serial })
  },
} as const

export type HandAct = keyof typeof handActs

export class HandRefused extends Error {}

export async function act(pool: pg.Pool, serial: string, name: HandAct, values: object): Promise<PhoneRow | undefined> {
  await handActs[name](pool, serial, values as never)
  return findPhone(pool, serial)
}
