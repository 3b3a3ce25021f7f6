import { z } from 'zod'

const n = z.number().int()

/** `GET /api/tickets/{number}/ledger`: one for each wanted kind. Counts are items unless said. */
export const ledgerRow = z.object({
  kind: z.string(),
  old: z.object({ read: n, late: n, bytes: n, own: n.nullable() }),
  fates: z.object({
    carried: n,
    changed: n,
    merged: n,
    alreadyThere: n,
    notChosen: n,
    cannotCross: n,
    refused: n,
    unreadable: n,
    gone: n,
    lost: n,
    editedThere: n,
    pushedOut: n,
    undone: n,
    pending: n,
  }),
  new: z.object({
    first: n.nullable(),
    last: n.nullable(),
    own: n.nullable(),
    kept: n,
    addedTo: n,
    altered: n,
    putBack: n,
    arrived: n,
    editedThere: n,
    cameOtherwise: n,
    leftBehind: n,
    double: n,
    cleared: n,
    absorbed: n,
    pushedOut: n,
    missing: n,
    parts: n,
    derived: n,
  }),
  short: n,
  over: n,
  verdict: z.enum(['waiting', 'running', 'agrees', 'agrees-with-notes', 'differs', 'accepted']),
  /** Second figures: `changedWithLoss`, `expected`, `notYetChecked`, `oldDerived`, `persons` and the like. */
  also: z.record(z.string(), z.number()),
})
export type LedgerRow = z.infer<typeof ledgerRow>

/** What a count on the screen opens to. */
export const entryFilter = z.enum([
  'all',
  'read',
  'late',
  'carried',
  'changed',
  'merged',
  'alreadyThere',
  'notChosen',
  'cannotCross',
  'refused',
  'unreadable',
  'gone',
  'lost',
  'editedThere',
  'pushedOut',
  'undone',
  'pending',
  'notOver',
  'willCarry',
  'willChange',
  'willBeThere',
  'willMerge',
  'first',
  'last',
  'kept',
  'addedTo',
  'altered',
  'putBack',
  'arrived',
  'editedNow',
  'cameOtherwise',
  'leftBehind',
  'double',
  'cleared',
  'absorbed',
  'firstPushedOut',
  'missing',
  'parts',
])
export type EntryFilter = z.infer<typeof entryFilter>

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
