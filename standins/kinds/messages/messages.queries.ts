import type pg from 'pg'

export async function countThreads(pool: pg.Pool, serial: string): Promise<{ conversations: number; attachments: number }> {
  const { rows } = await pool.query<{ conversations: number; attachments: number }>(
    `select count(distinct thread) as conversations, coalesce(sum(jsonb_array_length(data->'parts')), 0)::int as attachments
       from record
      where serial = $1 and kind = 'messages' and visible_at <= now()`,
    [serial],
  )
  return rows[0]!
}

/** A keep-time of a year removes what is older. */
export async function deleteOlderThanAYear(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query(
    `delete from record
      where serial = $1 and kind = 'messages' and at_ms < extract(epoch from now() - interval '1 year') * 1000`,
    [serial],
  )
}
