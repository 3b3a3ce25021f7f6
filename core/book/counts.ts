import { notOver, type Counts, type Fate } from './terms.ts'

interface Row {
  readonly kind: string
  readonly fates: Counts<Fate>
  /** Of what waits: what a hand installs on the new phone. */
  readonly toInstall: number
}

/** How many did not come over and are settled, whatever the reason. */
export function countNotOver({ fates }: Pick<Row, 'fates'>): number {
  return notOver.reduce((sum, fate) => sum + fates[fate], 0)
}

/** How many of each kind still wait to be carried; what a hand installs is not carried. */
export function stillToCarry(ledger: readonly Row[]): { readonly kind: string; readonly n: number }[] {
  return ledger.map(({ kind, fates, toInstall }) => ({ kind, n: fates.pending - toInstall }))
}

/** How many are left to a hand on the new phone. */
export function leftToInstall(ledger: readonly Pick<Row, 'toInstall'>[]): number {
  return ledger.reduce((sum, { toInstall }) => sum + toInstall, 0)
}

/** Left out as a whole: nothing of the kind came or comes over, though something of it could. */
export function isLeftOut({ fates }: Pick<Row, 'fates'>): boolean {
  const { notChosen, unreadable: _, cannotCross: __, ...others } = fates
  return notChosen > 0 && Object.values(others).every((n) => n === 0)
}
