/** What a practice phone is and what it holds to; written down here on its own, not taken from the product. */
export interface StandinModel {
  readonly model: string
  readonly maker: string
  readonly platform: 'android' | 'ios'
  readonly dialect: 'orrin' | 'tamsel' | 'veyra'
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
}

const orrin = { maker: 'Orrin', platform: 'android', dialect: 'orrin', joinsEqual: true, settleMs: 900, derived: 1 } as const
const veyra = { maker: 'Veyra', platform: 'ios', dialect: 'veyra', joinsEqual: false, settleMs: 1500, derived: 0 } as const
const orrinLimits = { nameChars: 240, photoBytes: 400_000, phones: 50, noteChars: 20_000 }
const veyraLimits = { nameChars: 500, photoBytes: 220_000, phones: 200, noteChars: 60_000 }

export const standinModels: readonly StandinModel[] = [
  { ...orrin, model: 'Orrin 5', limits: orrinLimits },
  { ...orrin, model: 'Orrin 9', limits: orrinLimits },
  {
    model: 'Tamsel M2',
    maker: 'Tamsel',
    platform: 'android',
    dialect: 'tamsel',
    limits: { nameChars: 120, photoBytes: 60_000, phones: 10, noteChars: 1_000 },
    joinsEqual: false,
    settleMs: 2500,
    derived: 1,
  },
  { ...veyra, model: 'Veyra 12', limits: veyraLimits },
  { ...veyra, model: 'Veyra 14', limits: veyraLimits },
]

export function standinModel(model: string): StandinModel | undefined {
  return standinModels.find((m) => m.model === model)
}
