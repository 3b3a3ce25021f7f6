let steps = 0

/**
 * Counts what a reader does for what it is given: characters looked at, entries gone through, wherever a loop's length
 * depends on what somebody else wrote. A test holds that twice the input costs twice the work and no more.
 */
export function countWork(n: number): void {
  steps += n
}

/** The work since it was last asked for. */
export function takeWork(): number {
  const done = steps
  steps = 0
  return done
}
