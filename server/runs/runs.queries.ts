import type { RunState } from '#core/plan/run-states.ts'
import { change, many, maybeOne, one, type Client } from '../base/db/sql.ts'
import type { RunId, StaffId, TicketId } from '../base/ids.ts'

export interface RunRow {
  id: RunId
  ticket_id: TicketId
  type: 'count-in' | 'carry' | 'check-off' | 'take-away'
  state: RunState
  reason: string | null
  side: 'old' | 'new' | null
  /** The bench its phones are at. */
  station: string | null
  step: string
  done: number
  total: number
  unit: 'items' | 'bytes'
  /** The kind it works on now. */
  kind: string | null
  /** Since when it does this step of this kind, and how far it was then. */
  step_since: Date | null
  step_from: number
  /** Of the whole stretch, in seconds as they are usual; measured since then, and how far it was. */
  usual_done: number
  usual_total: number
  measured_since: Date | null
  measured_from: number
  epoch: number
  started_at: Date
  work_started_at: Date | null
  ended_at: Date | null
}

const columns =
  'id, ticket_id, type, state, reason, side, station, step, done, total, unit, kind, step_since, step_from, usual_done, usual_total, measured_since, measured_from, epoch, started_at, work_started_at, ended_at'

/** The class of the advisory locks by which workers show that they live. */
const presenceClass = 46_720

/** Holds a worker's lock for as long as its session lives. */
export async function holdPresence(client: Client, key: number): Promise<void> {
  await change(client, 'select pg_advisory_lock($1, $2)', [presenceClass, key])
}

/** Nobody works on it: it waits, is due again, its lease ran out, or its owner's session is gone. */
const isFree = `(state = 'waiting' or (state = 'paused' and retry_at <= now()) or (state = 'running' and (lease_until < now()
            or (lease_key is not null and lease_key not in (
              select objid::bigint from pg_locks where locktype = 'advisory' and classid = ${presenceClass} and granted)))))`

/** It is of no station, or of none of those that others stand at: what a station left behind that is no more is anybody's. */
const isHere = (elsewhere: string) => `(station is null or station <> all(${elsewhere}::text[]))`

/** Takes a run that nobody owns, or whose owner's lease ran out, by a new epoch; undefined when there is none. */
export function claimRun(
  client: Client,
  {
    runId,
    owner,
    leaseMs,
    leaseKey = null,
    elsewhere,
  }: { runId: RunId; owner: string; leaseMs: number; leaseKey?: number | null; elsewhere: readonly string[] },
): Promise<RunRow | undefined> {
  return maybeOne<RunRow>(
    client,
    `update run
        set state = 'running', last_event = 'claimed', lease_owner = $2, lease_key = $4, lease_until = now() + make_interval(secs => $3 / 1000.0), epoch = epoch + 1,
            reason = null, side = null, stretch = null, work_started_at = coalesce(work_started_at, now())
      where id = (
        select id from run
         where id = $1
           and ${isFree} and ${isHere('$5')}
           for update skip locked
      )
      returning ${columns}`,
    [runId, owner, leaseMs, leaseKey, elsewhere],
  )
}

/**
 * Runs that somebody should look at: waiting, due again, or left by an owner that fell silent.
 * @param elsewhere stations that others stand at: their runs are theirs
 */
export function manyClaimable(client: Client, elsewhere: readonly string[]): Promise<{ id: RunId }[]> {
  return many<{ id: RunId }>(
    client,
    `select id from run
      where ${isFree} and ${isHere('$1')}
      order by id
      limit 50`,
    [elsewhere],
  )
}

/** Prolongs the lease; 0 means that another epoch owns the run. */
export function renewLease(client: Client, { runId, epoch, leaseMs }: { runId: RunId; epoch: number; leaseMs: number }): Promise<number> {
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
    stretch,
  }: {
    runId: RunId
    epoch: number
    step: string
    done: number
    total: number
    unit: 'items' | 'bytes'
    kind: string | null
    stretch: { readonly name: string; readonly doneS: number; readonly totalS: number } | null
  },
): Promise<number> {
  return change(
    client,
    `update run
        set step_since = case when (step, unit, kind) is distinct from ($3, $6, $7) then now() else coalesce(step_since, now()) end,
            step_from = case when (step, unit, kind) is distinct from ($3, $6, $7) then $4 else step_from end,
            step = $3, done = $4, total = $5, unit = $6, kind = $7,
            measured_since = case when stretch is distinct from $8 then now() else coalesce(measured_since, now()) end,
            measured_from = case when stretch is distinct from $8 then $9 else measured_from end,
            stretch = $8, usual_done = $9, usual_total = $10
      where id = $1 and epoch = $2 and state = 'running'`,
    [runId, epoch, step, done, total, unit, kind, stretch?.name ?? null, stretch?.doneS ?? 0, stretch?.totalS ?? 0],
  )
}

/** Locks the run's row for a transaction of its owner; 0 means stop. */
export function fence(client: Client, { runId, epoch }: { runId: RunId; epoch: number }): Promise<number> {
  return change(client, `update run set epoch = epoch where id = $1 and epoch = $2 and state = 'running'`, [runId, epoch])
}

export function pauseRun(
  client: Client,
  {
    runId,
    epoch,
    reason,
    side,
    kind = null,
    retryMs,
  }: { runId: RunId; epoch: number; reason: string; side: 'old' | 'new' | null; kind?: string | null; retryMs: number },
): Promise<number> {
  return change(
    client,
    `update run
        set state = 'paused', last_event = 'waits', reason = $3, side = $4, kind = coalesce($6, kind), retry_at = now() + make_interval(secs => $5 / 1000.0), lease_owner = null, lease_until = null
      where id = $1 and epoch = $2 and state = 'running'`,
    [runId, epoch, reason, side, retryMs, kind],
  )
}

/** Ends a run and frees its phones. */
export async function endRun(
  client: Client,
  { runId, epoch, state }: { runId: RunId; epoch: number; state: 'done' | 'stopped' },
): Promise<number> {
  const ended = await change(
    client,
    `update run set state = $3, last_event = case $3 when 'done' then 'ended' else 'stopped' end, step = $3, ended_at = now(), lease_owner = null, lease_until = null where id = $1 and epoch = $2 and state = 'running'`,
    [runId, epoch, state],
  )
  if (ended > 0) await change(client, 'update run_phone set is_active = false where run_id = $1', [runId])
  return ended
}

/** Stops a run from outside by raising its epoch: its owner finds out at its next write. */
export async function stopRun(client: Client, runId: RunId): Promise<number> {
  const stopped = await change(
    client,
    `update run
        set state = 'stopped', last_event = 'stopped', step = 'stopped', epoch = epoch + 1, ended_at = now(), lease_owner = null, lease_until = null
      where id = $1 and state in ('waiting', 'running', 'paused', 'held')`,
    [runId],
  )
  if (stopped > 0) await change(client, 'update run_phone set is_active = false where run_id = $1', [runId])
  return stopped
}

export interface NewRun {
  readonly ticketId: TicketId
  readonly type: RunRow['type']
  readonly serials: readonly string[]
  /** Where its phones are; null where nobody knows yet: then any worker looks for them. */
  readonly station: string | null
  readonly staffId: StaffId | null
}

/** @throws unique_violation when a phone is busy with another run */
export async function insertRun(client: Client, { ticketId, type, serials, station, staffId }: NewRun): Promise<RunRow> {
  const run = await one<RunRow>(
    client,
    `insert into run (ticket_id, type, station, started_by) values ($1, $2, $3, $4) returning ${columns}`,
    [ticketId, type, station, staffId],
  )
  await change(client, 'insert into run_phone (run_id, serial) select $1, unnest($2::text[])', [run.id, serials])
  // the doorbell: it only tells a worker to look; the truth is in the row
  await change(client, `select graphile_worker.add_job('ring', json_build_object('run', $1::bigint), max_attempts := 1)`, [run.id])
  return run
}

export function maybeActiveRun(client: Client, ticketId: TicketId): Promise<RunRow | undefined> {
  return maybeOne<RunRow>(
    client,
    `select ${columns} from run where ticket_id = $1 and state in ('waiting', 'running', 'paused', 'held') order by id desc limit 1`,
    [ticketId],
  )
}

export function maybeLastRun(client: Client, ticketId: TicketId): Promise<RunRow | undefined> {
  return maybeOne<RunRow>(
    client,
    `select ${columns} from run where ticket_id = $1 and state in ('done', 'stopped') order by id desc limit 1`,
    [ticketId],
  )
}

export function manyActiveRuns(client: Client, ticketIds: readonly TicketId[]): Promise<RunRow[]> {
  return many<RunRow>(
    client,
    `select ${columns} from run where ticket_id = any($1::bigint[]) and state in ('waiting', 'running', 'paused', 'held')`,
    [ticketIds],
  )
}

/** Pauses a run by hand, by raising its epoch; it is nobody's until it is resumed. */
export function holdRun(client: Client, runId: RunId): Promise<number> {
  return change(
    client,
    `update run
        set state = 'held', last_event = 'held', reason = null, side = null, retry_at = null, epoch = epoch + 1, lease_owner = null, lease_until = null
      where id = $1 and state in ('waiting', 'running', 'paused')`,
    [runId],
  )
}

export function resumeRun(client: Client, runId: RunId): Promise<number> {
  return change(client, `update run set state = 'waiting', last_event = 'resumed' where id = $1 and state = 'held'`, [runId])
}

/** Gives back what a worker that ends in order holds: another takes it up at once. */
export function releaseRuns(client: Client, owner: string): Promise<number> {
  return change(
    client,
    `update run set state = 'waiting', last_event = 'released', epoch = epoch + 1, lease_owner = null, lease_until = null
      where lease_owner = $1 and state = 'running'`,
    [owner],
  )
}

/** The phones a run works with. */
export function manySerials(client: Client, runId: RunId): Promise<{ serial: string }[]> {
  return many<{ serial: string }>(client, 'select serial from run_phone where run_id = $1', [runId])
}

/** A place in a transaction that a failure goes back to. */
export async function savepoint(client: Client): Promise<void> {
  await client.query('savepoint starting')
}

export async function backToSavepoint(client: Client): Promise<void> {
  await client.query('rollback to savepoint starting')
}
