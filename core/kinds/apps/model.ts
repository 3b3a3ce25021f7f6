import type { AppRecord } from '../../formats/app-record/index.ts'

/** An app of a catalogue, as far as choosing needs it. */
export interface Candidate {
  readonly id: string
  readonly name: string
  readonly maker: string
  readonly use: string
  readonly priceCents: number
  readonly regions: readonly string[]
  readonly minVersion: number
  readonly sizeBytes: number
  /** Where its own store has it. */
  readonly link?: string | undefined
}

/** What the catalogue and the shop know of an app whose platform is left. */
export interface Known {
  /** Itself, in its own catalogue. */
  readonly app: Candidate | null
  readonly candidates: readonly Candidate[]
  readonly hasWebPage: boolean
  /** The shop chose before: one of the candidates, or null for none. */
  readonly chosen?: string | null
  /** The new phone's. */
  readonly region: string
  readonly version: number
}

/** One app of its owner's. */
export interface App extends Omit<AppRecord, 'catalogue'> {
  /** Bound to this phone: it must be moved by hand before that is wiped. */
  readonly tied: 'bank' | 'codes' | 'wallet' | 'chat' | undefined
  readonly known: Known | undefined
}

const tiedUses: ReadonlySet<string> = new Set(['bank', 'codes', 'wallet', 'chat'])

export function tiedBy(use: string): App['tied'] {
  return tiedUses.has(use) ? (use as App['tied']) : undefined
}
