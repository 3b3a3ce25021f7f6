import { z } from 'zod'
import { departures, fates, origins, verdicts } from '#core/book/terms.ts'
import { entryFilters } from './sets.ts'

const n = z.number().int()
const countsOf = <K extends string>(names: readonly K[]) =>
  z.object(Object.fromEntries(names.map((name) => [name, n])) as Record<K, typeof n>)

/** @see entryFilters */
export const entryFilter = z.enum(entryFilters)
export type EntryFilter = z.infer<typeof entryFilter>

/** A second figure of a kind, beside its count. */
export const figure = z.object({
  /**
   * `derived`: entries a phone counts though nobody stored them; `groups`: conversations and the like; `sum`: of a
   * shape of the items; `shows`: what a phone’s own screen says.
   */
  code: z.enum(['derived', 'groups', 'sum', 'shows']),
  /** Of what: `birthdays`, `attachments`, `persons`. */
  of: z.string(),
  side: z.enum(['old', 'first', 'last']),
  n,
  /** Null where it opens to nothing but its own sentence. */
  opens: z.object({ as: z.enum(['own', 'groups', 'facet']), name: z.string().nullable() }).nullable(),
})
export type Figure = z.infer<typeof figure>

/** `GET /api/tickets/{number}/ledger`: one for each wanted kind. Counts are items unless said. */
export const ledgerRow = z.object({
  kind: z.string(),
  old: z.object({
    read: n,
    late: n,
    bytes: n,
    own: n.nullable(),
    /** Entries it counts though nobody stored them. */
    derived: n,
    /** While it is read: how many there are to be. */
    counting: n.nullable(),
  }),
  fates: countsOf(fates),
  new: countsOf([...origins, ...departures]).extend({
    first: n.nullable(),
    last: n.nullable(),
    own: n.nullable(),
    parts: n,
    derived: n,
    /** Records that came otherwise and are the same person’s, app’s or network’s as one of ours. */
    twins: n,
    /** What the last count is to be: first, what the new phone took, and what is still to come. */
    expected: n.nullable(),
  }),
  /** Of what waits: what goes over as it is, and what in another form; known once it is forecast. */
  toCarry: n,
  toChange: n,
  /** Of what waits: what a hand installs on the new phone. */
  toInstall: n,
  /** Of what was changed: what lost something on the way. */
  changedWithLoss: n,
  /** Taken by the new phone since it was read afresh. */
  notYetChecked: n,
  short: n,
  over: n,
  verdict: z.enum(verdicts),
  /** All agrees but for what is left to install. */
  agreesButInstall: z.boolean(),
  also: z.array(figure),
})
export type LedgerRow = z.infer<typeof ledgerRow>

export const entryRow = z.object({
  /** Stable within the ticket: side and number. */
  key: z.string(),
  position: n,
  fate: z.string(),
  reasons: z.array(z.string()),
  storage: z.string(),
  shape: z.record(z.string(), z.number()),
  sizeBytes: n,
  isChosen: z.boolean(),
  late: z.boolean(),
  /** When it happened, for kinds that have a time. */
  at: z.string().nullable(),
  /** Only while showing is allowed. */
  title: z.string().nullable(),
})
export type EntryRow = z.infer<typeof entryRow>

export const groupRow = z.object({
  /** What `group` or `when` of a search takes. */
  key: z.string(),
  items: n,
  /** How many of them are chosen; of the old side. */
  chosen: n,
  from: z.string().nullable(),
  to: z.string().nullable(),
  /** Only while showing is allowed. */
  title: z.string().nullable(),
})
export type GroupRow = z.infer<typeof groupRow>
export const groupPage = z.object({ total: n, rows: z.array(groupRow), isShowing: z.boolean() })

/** The same person on both phones. */
export const joiningRow = z.object({
  /** Of the item of the old phone: what deciding takes. */
  key: z.string(),
  position: n,
  /** What the two share: `name`, `phone`, `email`. */
  shared: z.array(z.string()),
  /** Fields that one record can't say both of; none when they can be joined. */
  conflicts: z.array(z.string()),
  decision: z.enum(['keep', 'join']),
  state: z.enum(['open', 'sent', 'joined', 'undoing', 'undone']),
  fate: z.string(),
  /** Only while showing is allowed. */
  title: z.string().nullable(),
})
export type JoiningRow = z.infer<typeof joiningRow>
export const joiningPage = z.object({
  /** All of them; those that can be joined; of those, who shares a name and a number or an address; to be joined; joined. */
  counts: z.object({ all: n, can: n, sure: n, toJoin: n, joined: n, undone: n }),
  rows: z.array(joiningRow),
  next: z.string().nullable(),
  isShowing: z.boolean(),
})
export type JoiningPage = z.infer<typeof joiningPage>
const fieldLine = z.object({ field: z.string(), text: z.string() })
/** Both sides field by field, and the record they would make; null when they can't be one. */
export const joiningSides = z.object({ ours: z.array(fieldLine), theirs: z.array(fieldLine), joined: z.array(fieldLine).nullable() })
export type JoiningSides = z.infer<typeof joiningSides>

export const entryPage = z.object({
  /** Null where counting costs more than the page: ask for it apart. */
  total: n.nullable(),
  rows: z.array(entryRow),
  /** Pass as `after` for the next page; null at the end. */
  next: z.string().nullable(),
  isShowing: z.boolean(),
})
