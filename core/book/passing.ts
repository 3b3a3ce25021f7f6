/**
 * Why an item was refused or could not be given, where that may pass by itself: a phone that is busy for a moment, a
 * file that stalled. Those are tried again at the end of carrying, and once more at Check off; all others by hand.
 */
export const passingReasons = ['not-now', 'no-trace', 'stalls', 'reads-differently'] as const

/** How often an item is tried again by itself before a person must say so. */
export const mostRetries = { carry: 1, checkOff: 2 } as const
