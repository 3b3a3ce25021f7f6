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

/** Rate and what is left as a range that narrows while the rate settles. Seconds. */
export function timeLeft(done: number, total: number, elapsedS: number): { readonly lowS: number; readonly highS: number } | undefined {
  if (done <= 0 || elapsedS <= 0 || done >= total) return undefined
  const perItem = elapsedS / done
  const spread = Math.max(0.08, 0.6 * (1 - done / total) * Math.min(1, 20 / elapsedS))
  const left = perItem * (total - done)
  return { lowS: Math.round(left * (1 - spread / 2)), highS: Math.ceil(left * (1 + spread)) }
}
