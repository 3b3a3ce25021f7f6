import type { App, Candidate, Known } from './model.ts'

/** What stands in for an app on the other platform, and why it was chosen. */
export interface Counterpart {
  /** same-maker: its maker offers it there. equal-use: another of the same use. web: a page in the browser. none: nothing. */
  readonly how: 'same-maker' | 'equal-use' | 'web' | 'none'
  readonly app: Candidate | undefined
  /** The shop chose it before, or now. */
  readonly isShops: boolean
  /** What the customer is told beforehand: `paid-again`, `other-region`, `needs-newer`. */
  readonly notes: readonly ('paid-again' | 'other-region' | 'needs-newer')[]
}

/**
 * Finds the counterpart of an app: the shop's own word first; then its maker's under the same name, then the best of
 * equal use that can be installed here (same maker, then free before paid, then by name so that it is the same each
 * time), then a web page.
 */
export function findCounterpart({ name, known }: Pick<App, 'name' | 'known'>): Counterpart {
  if (!known) return { how: 'none', app: undefined, isShops: false, notes: [] }
  const { candidates, chosen, app } = known
  if (chosen !== undefined) {
    const picked = candidates.find(({ id }) => id === chosen)
    if (picked) return of(picked, known, true)
    return { how: known.hasWebPage ? 'web' : 'none', app: undefined, isShops: true, notes: [] }
  }
  const own = app?.name ?? name
  const sameMaker = candidates.find((one) => app && one.maker === app.maker && nameKey(one.name) === nameKey(own))
  if (sameMaker) return of(sameMaker, known, false)
  const alike = candidates
    .filter((one) => app && one.use === app.use && canInstall(one, known))
    .sort((a, b) => rank(a, app) - rank(b, app) || (a.name < b.name ? -1 : 1))
  if (alike[0]) return of(alike[0], known, false)
  return { how: known.hasWebPage ? 'web' : 'none', app: undefined, isShops: false, notes: [] }
}

/** It is an app the customer installs, and waits on the install list until the phone reports it. */
export function isInstalledByHand(how: string): boolean {
  return how === 'same-maker' || how === 'equal-use'
}

/** It is offered where the phone is, and runs on it. */
export function canInstall({ regions, minVersion }: Candidate, { region, version }: Pick<Known, 'region' | 'version'>): boolean {
  return (regions.length === 0 || regions.includes(region)) && minVersion <= version
}

function of(app: Candidate, known: Known, isShops: boolean): Counterpart {
  const notes: Counterpart['notes'][number][] = []
  if (app.priceCents > 0) notes.push('paid-again')
  if (app.regions.length > 0 && !app.regions.includes(known.region)) notes.push('other-region')
  if (app.minVersion > known.version) notes.push('needs-newer')
  return {
    how: known.app && app.maker === known.app.maker && nameKey(app.name) === nameKey(known.app.name) ? 'same-maker' : 'equal-use',
    app,
    isShops,
    notes,
  }
}

function rank(one: Candidate, app: Candidate | null): number {
  return (one.maker === app?.maker ? 0 : 4) + (one.priceCents > 0 ? 2 : 0)
}

function nameKey(name: string): string {
  return name
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '')
}
