import type pg from 'pg'

/** Moving photos, each a picture and a clip. */
export async function countClips(pool: pg.Pool, serial: string): Promise<number> {
  const { rows } = await pool.query<{ n: number }>(
    `select count(*) as n
       from record
      where serial = $1 and kind = 'photos' and visible_at <= now()
        and jsonb_array_length(data->'files') > 1 and data->'files'->1->>'role' = 'clip'`,
    [serial],
  )
  return rows[0]!.n
}
