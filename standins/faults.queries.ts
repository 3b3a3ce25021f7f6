import type pg from 'pg'

export interface FaultRow {
  point: string
  effect: string
  skip: number
  times: number
}

/** Faults that still wait, in the order they were set. */
export async function manyFaults(pool: pg.Pool, serial: string): Promise<FaultRow[]> {
  const { rows } = await pool.query<FaultRow>('select point, effect, skip, times from fault where serial = $1 and times > 0 order by id', [
    serial,
  ])
  return rows
}

export async function hasFault(pool: pg.Pool, serial: string, points: readonly string[]): Promise<boolean> {
  const { rows } = await pool.query<{ yes: boolean }>(
    'select exists (select 1 from fault where serial = $1 and point = any($2::text[]) and times > 0) as yes',
    [serial, points],
  )
  return rows[0]!.yes
}

export async function insertFault(pool: pg.Pool, serial: string, { point, effect, skip, times }: FaultRow): Promise<void> {
  await pool.query('insert into fault (serial, point, effect, skip, times) values ($1, $2, $3, $4, $5)', [
    serial,
    point,
    effect,
    skip,
    times,
  ])
}

export async function deleteFaults(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('delete from fault where serial = $1', [serial])
}

/**
 * Counts a fault down and answers with it if it happens now, and whether any waited at any point; one statement, so that
 * two passings never share one.
 */
export async function useFault(pool: pg.Pool, serial: string, point: string): Promise<{ effect: string | null; waits: boolean }> {
  const { rows } = await pool.query<{ effect: string | null; waits: boolean }>(
    `with next as (
       select id, skip from fault where serial = $1 and point = $2 and times > 0 order by id limit 1 for update
     ), used as (
       update fault f
          set skip = greatest(f.skip - 1, 0), times = case when f.skip > 0 then f.times else f.times - 1 end
         from next
        where f.id = next.id
       returning f.effect, next.skip = 0 as happens
     )
     select (select effect from used where happens) as effect,
            exists (select 1 from fault where serial = $1 and times > 0) as waits`,
    [serial, point],
  )
  return rows[0]!
}
