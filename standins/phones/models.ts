/** What a practice phone is and what it holds to; written down here on its own, not taken from the product. */
export interface StandinModel {
  readonly model: string
  readonly maker: string
  readonly platform: 'android' | 'ios' | 'keypad'
  readonly dialect: 'orrin' | 'tamsel' | 'veyra' | 'holt'
  readonly limits: {
    readonly nameChars: number
    readonly photoBytes: number
    readonly phones: number
    readonly noteChars: number
  }
  readonly joinsEqual: boolean
  readonly settleMs: number
  /** Entries it counts though nobody stored them: the owner's own card. */
  readonly derived: number
  /** Apps it came with: nobody's own. */
  readonly preinstalled: number
  /** How many contacts it holds at the most. */
  readonly places?: number
  /** It falls back to “charging only” each time its cable is moved. */
  readonly fallsBack?: boolean
}

const orrin = {
  maker: 'Orrin',
  platform: 'android',
  dialect: 'orrin',
  joinsEqual: true,
  settleMs: 900,
  derived: 1,
  preinstalled: 23,
} as const
const veyra = {
  maker: 'Veyra',
  platform: 'ios',
  dialect: 'veyra',
  joinsEqual: false,
  settleMs: 1500,
  derived: 0,
  preinstalled: 31,
} as const
const orrinLimits = { nameChars: 240, photoBytes: 400_000, phones: 50, noteChars: 20_000 }
const veyraLimits = { nameChars: 500, photoBytes: 220_000, phones: 200, noteChars: 60_000 }

const tamsel = {
  maker: 'Tamsel',
  platform: 'android',
  dialect: 'tamsel',
  joinsEqual: false,
  settleMs: 2500,
  derived: 1,
  preinstalled: 44,
  fallsBack: true,
} as const
const tamselLimits = { nameChars: 120, photoBytes: 60_000, phones: 10, noteChars: 1_000 }
const holt = {
  maker: 'Holt',
  platform: 'keypad',
  dialect: 'holt',
  joinsEqual: false,
  settleMs: 400,
  derived: 0,
  preinstalled: 0,
  limits: { nameChars: 22, photoBytes: 0, phones: 3, noteChars: 0 },
} as const

export const standinModels: readonly StandinModel[] = [
  ...['Orrin 4', 'Orrin 5', 'Orrin 7', 'Orrin 9'].map((model) => ({ ...orrin, model, limits: orrinLimits })),
  ...['Tamsel M1', 'Tamsel M2', 'Tamsel M3'].map((model) => ({ ...tamsel, model, limits: tamselLimits })),
  ...['Veyra 9', 'Veyra 10', 'Veyra 12', 'Veyra 14'].map((model) => ({ ...veyra, model, limits: veyraLimits })),
  { ...holt, model: 'Holt 3', places: 300 },
  { ...holt, model: 'Holt 5', places: 500 },
]

export function standinModel(model: string): StandinModel | undefined {
  return standinModels.find((m) => m.model === model)
}
