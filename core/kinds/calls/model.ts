/** How a call ended, as its phone's own log tells it. */
export const callTypes = ['in', 'out', 'missed', 'rejected', 'blocked'] as const
export type CallType = (typeof callTypes)[number]

/** One entry of a call log. */
export interface Call {
  /** As the phone gave it; empty when the caller withheld it. */
  readonly number: string
  /** The name the log shows beside it: derived from the contacts, no content of its own. */
  readonly name: string
  readonly type: CallType
  /** Milliseconds since 1970, to the second; null where the phone itself does not know. */
  readonly atMs: number | null
  /** Seconds; undefined where the phone does not say it. */
  readonly durationS: number | undefined
}
