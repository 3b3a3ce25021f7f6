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

interface Foretold {
  readonly kind: string
  readonly counts: { readonly carried: number; readonly changed: number; readonly merged: number }
}

/** What one press takes over of each kind, as foretold: neither what is there already nor what a hand installs. */
export function foretoldToCome(ledger: readonly Row[], forecasts: readonly Foretold[]): { readonly kind: string; readonly n: number }[] {
  return forecasts.map(({ kind, counts: { carried, changed, merged } }) => {
    const byHand = ledger.find((row) => row.kind === kind)?.toInstall ?? 0
    return { kind, n: carried + changed + merged - byHand }
  })
}

/** What waits in the ledger, and why less of it comes over: found there already, or installed by a hand. */
export function whatWaits(
  ledger: readonly Row[],
  forecasts: readonly Foretold[],
): { readonly waits: number; readonly comes: number; readonly there: number; readonly byHand: number } {
  const foretold = new Set(forecasts.map(({ kind }) => kind))
  const rows = ledger.filter(({ kind }) => foretold.has(kind))
  const waits = rows.reduce((sum, { fates }) => sum + fates.pending, 0)
  const comes = foretoldToCome(rows, forecasts).reduce((sum, { n }) => sum + n, 0)
  const byHand = leftToInstall(rows)
  return { waits, comes, there: waits - comes - byHand, byHand }
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
