/** Every way an item of the old phone can end; exactly one each. */
export const fates = [
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
] as const
export type Fate = (typeof fates)[number]
/** What did not come over and is settled, whatever the reason. */
export const notOver = ['refused', 'unreadable', 'gone', 'lost', 'pushedOut', 'undone'] as const satisfies readonly Fate[]

/** What every record of the last count of the new phone is; exactly one each. */
export const origins = ['kept', 'addedTo', 'altered', 'putBack', 'arrived', 'editedThere', 'cameOtherwise', 'leftBehind', 'double'] as const
export type Origin = (typeof origins)[number]

/** What became of a record of the first count that is no longer listed. */
export const departures = ['cleared', 'absorbed', 'pushedOut', 'missing'] as const
export type Departure = (typeof departures)[number]

export const verdicts = ['waiting', 'running', 'agrees', 'agrees-with-notes', 'differs', 'accepted'] as const
export type Verdict = (typeof verdicts)[number]

export type Counts<K extends string> = Readonly<Record<K, number>>

export interface LedgerFigures {
  readonly old: {
    readonly read: number
    readonly late: number
    readonly bytes: number
    readonly own: number | null
    readonly derived: number
  }
  readonly fates: Counts<Fate>
  readonly new: Counts<Origin | Departure> & {
    readonly first: number | null
    /** Items of the last count: records less parts. */
    readonly last: number | null
    readonly own: number | null
    /** Further records written for one item. */
    readonly parts: number
    readonly derived: number
  }
  /** Some carried or changed item lost something on the way. */
  readonly changedWithLoss: number
  /** Records that came otherwise and are the same person’s, app’s or network’s as one of ours. */
  readonly twins: number
  readonly isRunning: boolean
  /** The new phone was read afresh after the last write, its count stood still, and every record was paired. */
  readonly isChecked: boolean
  /** The old phone was counted again, and what came late is in `old.late`. */
  readonly isRecounted: boolean
  readonly acceptedBy: string | null
}

function zeros<K extends string>(names: readonly K[]): Record<K, number> {
  return Object.fromEntries(names.map((name) => [name, 0])) as Record<K, number>
}

export const noFates = () => zeros(fates)
export const noOrigins = () => zeros<Origin | Departure>([...origins, ...departures])
