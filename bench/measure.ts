import { readFileSync } from 'node:fs'

/** Milliseconds of each of two works, run in turn so that both meet the same machine; medians. */
export async function sideBySide(
  rounds: number,
  first: () => unknown,
  second: () => unknown,
): Promise<{ firstMs: number; secondMs: number }> {
  const times: [number[], number[]] = [[], []]
  for (let round = -1; round < rounds; round++) {
    for (const [i, work] of [first, second].entries()) {
      const began = performance.now()
      await work()
      // the first round only warms up
      if (round >= 0) times[i]!.push(performance.now() - began)
    }
  }
  return { firstMs: median(times[0]), secondMs: median(times[1]) }
}

export function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!
}

/** One line: what, the ratio, the aim, and whether it is met. */
export function report(what: string, ratio: number, aim: { atLeast?: number; atMost?: number }): void {
  const isMet = ratio >= (aim.atLeast ?? -Infinity) && ratio <= (aim.atMost ?? Infinity)
  const aimed = aim.atLeast !== undefined ? `at least ${aim.atLeast}` : `at most ${aim.atMost}`
  console.log(`${what}: ${ratio.toFixed(2)} (aim ${aimed}: ${isMet ? 'met' : 'NOT met'})`)
}

/** The most memory a process held since it began, in kB; what the system tells of a child by `maxRSS` begins at what its parent held. */
export function peakKb(pid: number | 'self' = 'self'): number {
  return Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1])
}
