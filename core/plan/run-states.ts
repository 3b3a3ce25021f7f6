/** What a run is in. */
export const runStates = ['waiting', 'running', 'paused', 'held', 'done', 'stopped'] as const
/**
 * waiting: nobody works on it, any worker may claim it. running: one owner holds the lease; when the lease runs out
 * any worker may claim it. paused: waits for a phone, looked at again after a while or when the bench changes. held:
 * paused by hand, nobody's until it is resumed. done, stopped: ended.
 */
export type RunState = (typeof runStates)[number]

export const runEvents = ['claimed', 'waits', 'released', 'held', 'resumed', 'ended', 'stopped'] as const
export type RunEvent = (typeof runEvents)[number]

/** What becomes of a run by each event; no entry: it can't happen. The database holds the same table. */
export const runSteps: Readonly<Record<RunState, Partial<Record<RunEvent, RunState>>>> = {
  waiting: { claimed: 'running', held: 'held', stopped: 'stopped' },
  running: { claimed: 'running', waits: 'paused', released: 'waiting', held: 'held', stopped: 'stopped', ended: 'done' },
  paused: { claimed: 'running', held: 'held', stopped: 'stopped' },
  held: { resumed: 'waiting', stopped: 'stopped' },
  done: {},
  stopped: {},
}
