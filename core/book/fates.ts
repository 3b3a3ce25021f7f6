import type { Fate } from './terms.ts'

/** Everything that can happen to an item of the old phone. The last one is kept beside its fate. */
export const bookEvents = [
  'chosen',
  'left',
  'barred',
  'unbarred',
  'there',
  'taken',
  'takenChanged',
  'joined',
  'joinedByPhone',
  'refused',
  'unread',
  'cannot',
  'vanished',
  'cameBack',
  'edited',
  'installed',
  'found',
  'foundChanged',
  'foundJoined',
  'foundEdited',
  'foundPushedOut',
  'notFound',
  'noLongerThere',
  'again',
  'undone',
  'takenAway',
  'heldByTheirs',
  'closed',
] as const
export type BookEvent = (typeof bookEvents)[number]

/** An item's first fates: as it was read, before anything happened to it. */
export const firstFates: readonly Fate[] = ['pending', 'notChosen', 'cannotCross', 'unreadable']

type Steps = Partial<Record<BookEvent, Fate>>

/** On the new phone by this ticket, as far as a batch's answer or a check says. A check may come to another end each time. */
const over: Steps = {
  found: 'carried',
  foundChanged: 'changed',
  foundJoined: 'merged',
  foundEdited: 'editedThere',
  foundPushedOut: 'pushedOut',
  notFound: 'lost',
  edited: 'pending',
  undone: 'undone',
  takenAway: 'undone',
}

/** What was lost has no record of its own: taking away what reads otherwise leaves it lost, to be carried again. */
const { takenAway: _, ...lost } = over
/** One of equal items that was there already was edited: what is there is this one's now. */
const taken: Steps = { ...over, heldByTheirs: 'alreadyThere' }

/**
 * What becomes of an item's fate by each event; no entry: it can't happen. The database holds the same table and
 * refuses any other step.
 */
export const steps: Readonly<Record<Fate, Steps>> = {
  pending: {
    left: 'notChosen',
    barred: 'cannotCross',
    there: 'alreadyThere',
    taken: 'carried',
    takenChanged: 'changed',
    joined: 'merged',
    joinedByPhone: 'merged',
    refused: 'refused',
    unread: 'unreadable',
    cannot: 'cannotCross',
    vanished: 'gone',
    edited: 'pending',
    installed: 'changed',
    undone: 'undone',
    closed: 'notChosen',
  },
  notChosen: { chosen: 'pending', edited: 'pending', cameBack: 'pending' },
  cannotCross: { unbarred: 'pending', edited: 'pending' },
  alreadyThere: { noLongerThere: 'pending', edited: 'pending' },
  carried: taken,
  changed: taken,
  merged: over,
  lost: { ...lost, again: 'pending' },
  editedThere: { ...over, again: 'pending' },
  pushedOut: { ...over, again: 'pending' },
  refused: { again: 'pending', edited: 'pending' },
  unreadable: { again: 'pending', edited: 'pending' },
  gone: { cameBack: 'pending', edited: 'pending' },
  undone: { again: 'pending', edited: 'pending' },
}

/** What becomes of a fate by an event. @returns undefined where that can't happen */
export function step(fate: Fate, event: BookEvent): Fate | undefined {
  return steps[fate][event]
}
