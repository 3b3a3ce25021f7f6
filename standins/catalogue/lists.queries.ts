import type pg from 'pg'

export interface InstallListRow {
  platform: string
  ids: string[]
}

export async function insertList(pool: pg.Pool, code: string, { platform, ids }: InstallListRow): Promise<void> {
  await pool.query('insert into install_list (code, platform, ids) values ($1, $2, $3)', [code, platform, ids])
}

export async function maybeList(pool: pg.Pool, code: string): Promise<InstallListRow | undefined> {
  return (await pool.query<InstallListRow>('select platform, ids from install_list where code = $1', [code])).rows[0]
}
