/** A moment of a calendar: a day, a clock's reading wherever one is (floating), or a clock's reading in a zone. */
export type Moment =
  | { readonly kind: 'date'; readonly text: string }
  | { readonly kind: 'floating'; readonly text: string }
  | { readonly kind: 'zoned'; readonly text: string; readonly tzid: string; readonly atMs: number }

/** What an event or one of its overrides says. */
export interface EventFacts {
  readonly summary: string
  readonly location: string
  readonly description: string
  readonly url: string
  readonly start: Moment
  /** Seconds; undefined when it says neither end nor duration. */
  readonly durationS: number | undefined
  readonly status: string
  /** Minutes before the start, or an absolute time as text. */
  readonly alarms: readonly string[]
  /** As text: who is carried as an attendee would be invited again. */
  readonly attendees: readonly string[]
}

/** One occurrence of a series that is otherwise than the rest. */
export interface Override {
  readonly of: Moment
  readonly facts: EventFacts
  /** It repeats by a rule of its own, which the standard has no meaning for (RFC 5545 section 3.8.4.4). */
  readonly rule?: string
  /** All later occurrences are otherwise, too. */
  readonly isRange?: boolean
}

/** One item of a calendar: an event, or a series with its overrides. */
export interface CalendarItem {
  readonly uid: string
  readonly calendar: string
  /** Undefined when an override came without its series. */
  readonly event: EventFacts | undefined
  /** Parts in a fixed order; undefined when it happens once. */
  readonly rule: string | undefined
  readonly except: readonly Moment[]
  readonly extra: readonly Moment[]
  readonly overrides: readonly Override[]
  /** Zones of odd names it is written in, each as its VTIMEZONE's text. */
  readonly zones: Readonly<Record<string, string>>
  /** Instants (milliseconds) of its occurrences within two years either side of the ticket's day. */
  readonly occurrences: readonly number[]
  /** Its rule costs too much to tell them. */
  readonly areTooMany?: boolean
}
