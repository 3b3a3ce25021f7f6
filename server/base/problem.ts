import { errors, type ErrorCode } from '#contracts/errors.ts'

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
