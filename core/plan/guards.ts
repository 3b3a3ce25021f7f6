/**
 * Whether the phones look exchanged: the one named new holds something and the old one nothing, or at least ten
 * times what the old one holds.
 * Asked once before anything is written; never decided by the product.
 */
export function looksExchanged(oldItems: number, newItems: number): boolean {
  if (oldItems === 0) return newItems > 0
  return newItems >= 20 && newItems >= oldItems * 10
}

/** How a ticket, or a kind of it, stands, as far as an act may be refused for it. */
export interface Standing {
  /** A copy is looked into: nothing is carried. */
  readonly isLook: boolean
  readonly isCalledOff: boolean
  readonly isSigned: boolean
  readonly isResting: boolean
  /** A run of the ticket waits, runs, or is paused. */
  readonly hasRun: boolean
  /** What runs is Count in, and these kinds are whole on both phones: it has done with them. */
  readonly isOnlyCountingOthers: boolean
  /** The old phone is read, of the kind or of every kind. */
  readonly isOldRead: boolean
  /** Both phones are read. */
  readonly areBothRead: boolean
  /** Something was written, of any kind. */
  readonly isAnyFrozen: boolean
  /** Every kind's first count is frozen. */
  readonly areAllFrozen: boolean
}

/** What stands against an act, by the code of the sentence that says so. */
const against = {
  LookOnly: (s: Standing) => s.isLook,
  TicketCalledOff: (s: Standing) => s.isCalledOff,
  TicketSigned: (s: Standing) => s.isSigned,
  TicketRests: (s: Standing) => s.isResting,
  PhoneBusy: (s: Standing) => s.hasRun,
  // a kind that was added since is counted in beside those that are carried
  RolesFrozen: (s: Standing) => s.isAnyFrozen && s.areBothRead,
  PhonesWritten: (s: Standing) => s.isAnyFrozen,
  OldNotRead: (s: Standing) => !s.isOldRead,
  StageNotReached: (s: Standing) => !s.areBothRead,
  NotCarried: (s: Standing) => !s.areAllFrozen,
} as const
export type GuardCode = keyof typeof against
/** Acts that may be done to whole kinds while others are still counted in. */
const whileCounting: ReadonlySet<string> = new Set(['choose'])

/** Every act of a ticket and what it is refused for, the first of them said. */
export const guards = {
  countIn: ['TicketCalledOff', 'TicketSigned', 'RolesFrozen'],
  edit: ['LookOnly', 'TicketCalledOff', 'TicketSigned'],
  editPhones: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'PhonesWritten', 'PhoneBusy'],
  straight: ['LookOnly', 'TicketCalledOff', 'TicketSigned'],
  changeKinds: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'PhoneBusy'],
  choose: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'OldNotRead', 'PhoneBusy'],
  putFirst: ['LookOnly', 'TicketCalledOff', 'PhoneBusy'],
  decide: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'StageNotReached', 'PhoneBusy'],
  undo: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'PhoneBusy'],
  carry: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'StageNotReached'],
  check: ['LookOnly', 'TicketCalledOff', 'NotCarried'],
  again: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'PhoneBusy'],
  lockTakeHome: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'TicketRests', 'PhoneBusy'],
  takeAway: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'TicketRests', 'PhoneBusy'],
  accept: ['LookOnly', 'TicketCalledOff', 'TicketSigned'],
  sign: ['LookOnly', 'TicketCalledOff', 'TicketSigned', 'PhoneBusy'],
  callOff: ['LookOnly', 'TicketCalledOff', 'TicketSigned'],
  erase: ['PhoneBusy'],
} as const satisfies Record<string, readonly GuardCode[]>
export type GuardedAct = keyof typeof guards

/** The first that stands against an act; undefined when nothing does. */
export function firstAgainst(act: GuardedAct, standing: Standing): GuardCode | undefined {
  const now = standing.isOnlyCountingOthers && whileCounting.has(act) ? { ...standing, hasRun: false } : standing
  return guards[act].find((code) => against[code](now))
}
