import { errors, type ErrorCode } from '#contracts/errors.ts'
import { sqlState } from './db/sql.ts'

/** An expected failure with a code of the table; the sentence is made from it at the edge. */
export class Problem extends Error {
  constructor(
    readonly code: ErrorCode,
    /** Named fields or figures, never a customer's text. */
    readonly details: Readonly<Record<string, unknown>> = {},
  ) {
    super(code)
  }

  get status(): number {
    return errors[this.code].status
  }
}

/** What the database says, where it passes by itself: it is away, a lock or an answer was not had in time. Undefined for anything else. */
export function databaseCode(error: unknown): ErrorCode | undefined {
  const state = sqlState(error)
  if (state === 'away') return 'DatabaseAway'
  // a ticket is worked on alone: who waits for it too long is told, and nothing was changed
  if (state === 'locked') return 'PhoneBusy'
  return state === 'tooLong' ? 'TookTooLong' : undefined
}
