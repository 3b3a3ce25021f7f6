/** What Choose shows before anything is written: how many items end how, if the phone does as it is known to do. */
export interface Forecast {
  readonly carried: number
  readonly changed: number
  readonly changedWithLoss: number
  /** Joined into records the new phone has: no record more. */
  readonly merged: number
  readonly alreadyThere: number
  readonly notChosen: number
  readonly cannotCross: number
  readonly unreadable: number
  /** Further records the new phone makes of single items. */
  readonly parts: number
  /** Items the new phone will hold afterwards; it lists them and their further records. */
  readonly expected: number
}

/** @param first items of the first count of the new phone */
export function forecastOf(first: number, counts: Omit<Forecast, 'expected'>): Forecast {
  return { ...counts, expected: first + counts.carried + counts.changed }
}
