/** Time as the server sees it: tests bring their own, so that none sleeps or hangs on the machine's speed. */
export interface Clock {
  /** Milliseconds since 1970. */
  now(): number
  /** Resolves after so many milliseconds. */
  sleep(ms: number): Promise<void>
}

export const clock: Clock = {
  now: () => Date.now(),
  sleep: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
}

/** How often, and how long: what the house puts up with of phones and of itself before it gives up or asks for a hand. */
export const patience = {
  /** A listing that is torn, or does not meet the phone's own count, is taken again, after a pause that grows. */
  listing: { attempts: 3, pauseMs: 300 },
  /** A file that stalls or reads otherwise, before its item is given up. */
  file: { attempts: 3 },
  /** A picture that is made into another. */
  picture: { timeoutMs: 45_000 },
  /** Records sent whose answer never comes: in a row, before a hand is asked for; each, before it is refused. */
  sending: { unknownInARow: 2, sendsOfOne: 3 },
  /** A record changed in place whose answer never comes. */
  amending: { attempts: 4 },
  /**
   * A phone's own count that must stand still for its settling time, `leastMs` at least, looked at so often; after so
   * many of those times, and the grace, the run waits.
   */
  still: { leastMs: 50, lookMs: 250, times: 10, graceMs: 5000 },
  /** Calls of a phone: a short one, any, one that writes; a stream without a byte, and one that is not taken. */
  call: { shortMs: 3000, anyMs: 20_000, writeMs: 60_000, idleMs: 30_000, takeIdleMs: 45_000 },
  /** A bench that let everybody wait so long is not asked again for so long, where there are others. */
  bench: { longMs: 1000, silentMs: 6000 },
  /** The catalogue of apps. */
  catalogue: { timeoutMs: 10_000 },
  /** Progress is written so often at most. */
  progress: { everyMs: 330 },
  /** A run that waits is looked at again after this part of a lease; after a mistake of our own, more slowly. */
  waiting: { ofLease: 1 / 5, ofLeaseAfterMistake: 1 / 2 },
  /** A ticket that runs straight through and waits for a decision is looked at again. */
  straight: { everyMs: 4000 },
  /** A lease is renewed so often in its time. */
  lease: { beats: 3.3 },
} as const
