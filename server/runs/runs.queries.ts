import { change, many, maybeOne, one, type Client } from '../db/sql.ts'

export interface RunRow {
  id: number
  ticket_id: number
  type: 'count-in' | 'carry' | 'check-off'
  /**
   * waiting: nobody works on it, any worker may claim it. running: one owner holds the lease; when the lease runs
   * out any worker may claim it. paused: waits for a phone, looked at again after retry_at. done, stopped: ended.
   */
  state: 'waiting' | 'running' | 'paused' | 'done' | 'stopped'
  reason: string | null
  side: 'old' | 'new' | null
  step: string
  done: number
  total: number
  unit: 'items' | 'bytes'
  /** The kind it works on now. */
  kind: string | null
  /** Since when it does this step of this kind, and how far it was then. */
  step_since: Date | null
  step_from: number
  epoch: number
  started_at: Date
  work_started_at: Date | null
  ended_at: Date | null
}

const columns =
  'id, ticket_id, type, state, reason, side, step, done, total, unit, kind, step_since, step_from, epoch, started_at, work_started_at, ended_at'

/** Takes a run that nobody owns, or whose owner's lease ran out, by a new epoch; undefined when there is none. */
export function claimRun(
  client: Client,
  { runId, owner, leaseMs }: { runId: number; owner: string; leaseMs: number },
): Promise<RunRow | undefined> {
  return maybeOne<RunRow>(
    client,
    `update run
        set state = 'running', lease_owner = $2, lease_until = now() + make_interval(secs => $3 / 1000.0), epoch = epoch + 1,
            reason = null, side = null, work_started_at = coalesce(work_started_at, now())
      where id = (
        select id from run
         where id = $1
           and (state = 'waiting' or (state = 'paused' and retry_at <= now()) or (state = 'running' and lease_until < now()))
           for update skip locked
      )
      returning ${columns}`,
    [runId, owner, leaseMs],
  )
}

/** Runs that somebody should look at: waiting, due again, or left by an owner that fell silent. */
export function manyClaimable(client: Client): Promise<{ id: number }[]> {
  return many<{ id: number }>(
    client,
    `select id from run
      where state = 'waiting' or (state = 'paused' and retry_at <= now()) or (state = 'running' and lease_until < now())
      order by id
      limit 50`,
  )
}

/** Prolongs the lease; 0 means that another epoch owns the run. */
export function renewLease(client: Client, { runId, epoch, leaseMs }: { runId: number; epoch: number; leaseMs: number }): Promise<number> {
  return change(
    client,
    `update run set lease_until = now() + make_interval(secs => $3 / 1000.0) where id = $1 and epoch = $2 and state = 'running'`,
    [runId, epoch, leaseMs],
  )
}

/** Writes progress, fenced: 0 rows means that the run is no longer ours. */
export function writeProgress(
  client: Client,
  {
    runId,
    epoch,
    step,
    done,
    total,
    unit,
    kind,
  }: { runId: number; epoch: number; step: string; done: number; total: number; unit: 'items' | 'bytes'; kind: string | null },
): Promise<number> {
  return change(
    client,
    `update run
        set step_since = case when (step, unit, kind) is distinct from ($3, $6, $7) then now() else coalesce(step_since, now()) end,
            step_from = case when (step, unit, kind) is distinct from ($3, $6, $7) then $4 else step_from end,
            step = $3, done = $4, total = $5, unit = $6, kind = $7
      where id = $1 and epoch = $2 and state = 'running'`,
    [runId, epoch, step, done, total, unit, kind],
  )
}

/** Locks the run's row for a transaction of its owner; 0 means stop. */
export function fence(client: Client, { runId, epoch }: { runId: number; epoch: number }): Promise<number> {
  return change(client, `update run set epoch = epoch where id = $1 and epoch = $2 and state = 'running'`, [runId, epoch])
}

export function pauseRun(
  client: Client,
  { runId, epoch, reason, side, retryMs }: { runId: number; epoch: number; reason: string; side: 'old' | 'new' | null; retryMs: number },
): Promise<number> {
  return change(
    client,
    `update run
        set state = 'paused', reason = $3, side = $4, retry_at = now() + make_interval(secs => $5 / 1000.0), lease_owner = null, lease_until = null
      where id = $1 and epoch = $2 and state = 'running'`,
    [runId, epoch, reason, side, retryMs],
  )
}

/** Ends a run and frees its phones. */
export async function endRun(
  client: Client,
  { runId, epoch, state }: { runId: number; epoch: number; state: 'done' | 'stopped' },
): Promise<number> {
  const ended = await change(
    client,
    `update run set state = $3, step = $3, ended_at = now(), lease_owner = null, lease_until = null where id = $1 and epoch = $2 and state = 'running'`,
    [runId, epoch, state],
  )
  if (ended > 0) await client.query('update run_phone set is_active = false where run_id = $1', [runId])
  return ended
}

/** Stops a run from outside by raising its epoch: its owner finds out at its next write. */
export async function stopRun(client: Client, runId: number): Promise<number> {
  const stopped = await change(
    client,
    `update run
        set state = 'stopped', step = 'stopped', epoch = epoch + 1, ended_at = now(), lease_owner = null, lease_until = null
      where id = $1 and state in ('waiting', 'running', 'paused')`,
    [runId],
  )
  if (stopped > 0) await client.query('update run_phone set is_active = false where run_id = $1', [runId])
  return stopped
}

/** @throws unique_violation when a phone is busy with another run */
export async function insertRun(
  client: Client,
  { ticketId, type, serials, staffId }: { ticketId: number; type: RunRow['type']; serials: readonly string[]; staffId: number | null },
): Promise<RunRow> {
  const run = await one<RunRow>(client, `insert into run (ticket_id, type, started_by) values ($1, $2, $3) returning ${columns}`, [
    ticketId,
    type,
    staffId,
  ])
  await client.query('insert into run_phone (run_id, serial) select $1, unnest($2::text[])', [run.id, serials])
  // the doorbell: it only tells a worker to look; the truth is in the row
  await client.query(`select graphile_worker.add_job('ring', json_build_object('run', $1::bigint), max_attempts := 1)`, [run.id])
  return run
}

export function maybeActiveRun(client: Client, ticketId: number): Promise<RunRow | undefined> {
  return maybeOne<RunRow>(
    client,
    `select ${columns} from run where ticket_id = $1 and state in ('waiting', 'running', 'paused') order by id desc limit 1`,
    [ticketId],
  )
}

export function maybeLastRun(client: Client, ticketId: number): Promise<RunRow | undefined> {
  return maybeOne<RunRow>(
    client,
    `select ${columns} from run where ticket_id = $1 and state in ('done', 'stopped') order by id desc limit 1`,
    [ticketId],
  )
}

export function manyActiveRuns(client: Client, ticketIds: readonly number[]): Promise<RunRow[]> {
  return many<RunRow>(
    client,
    `select ${columns} from run where ticket_id = any($1::bigint[]) and state in ('waiting', 'running', 'paused')`,
    [ticketIds],
  )
}

/** Pauses a run from outside by raising its epoch; nobody claims it until it is resumed. */
export function pauseByHand(client: Client, runId: number): Promise<number> {
  return change(
    client,
    `update run
        set state = 'paused', reason = 'PausedByHand', side = null, retry_at = null, epoch = epoch + 1, lease_owner = null, lease_until = null
      where id = $1 and state in ('waiting', 'running', 'paused')`,
    [runId],
  )
}

export function resumeByHand(client: Client, runId: number): Promise<number> {
  return change(client, `update run set state = 'waiting', reason = null where id = $1 and state = 'paused' and reason = 'PausedByHand'`, [
    runId,
  ])
}
