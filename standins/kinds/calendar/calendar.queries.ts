import type pg from 'pg'

/** Contacts with a birthday. */
export async function countBirthdays(pool: pg.Pool, serial: string): Promise<number> {
  const { rows } = await pool.query<{ n: number }>(
    `select count(*) as n
       from record
      where serial = $1 and kind = 'contacts' and visible_at <= now()
        and (coalesce(data->>'birthday', '') <> '' or data->'rows' @> '[{"k": "birthday"}]')`,
    [serial],
  )
  return rows[0]!.n
}
