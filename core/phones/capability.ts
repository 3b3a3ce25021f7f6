/** Whether a phone gives a kind, and what it does with what it takes; or why it takes nothing of it. */
export interface KindCapability<Write> {
  readonly read: boolean
  readonly write: Write | { readonly cannot: string }
}

/** By kind; what each means to a phone stands in the kind's own folder. */
export type PhoneCapability = Readonly<Record<string, KindCapability<unknown>>>

/** What a ticket's side can be of: a phone's platform, a dropped file, a locker. */
export const sidePlatforms = ['android', 'ios', 'keypad', 'file', 'locker'] as const
export type SidePlatform = (typeof sidePlatforms)[number]

export interface PhoneModel {
  readonly maker: string
  readonly model: string
  readonly platform: SidePlatform
  readonly capability: PhoneCapability
  /** Where its clock is, once the phone said so (IANA). */
  readonly zone?: string
}

const unknown: KindCapability<never> = { read: false, write: { cannot: 'not-known' } }

/** What a phone does with a kind, in the kind's own terms; a phone of which nothing is known gives and takes none. */
export function capabilityOf<Ability>(phone: PhoneModel, kind: string): KindCapability<Ability> {
  return (phone.capability[kind] as KindCapability<Ability> | undefined) ?? unknown
}

/** A locker takes everything, each record as the phone gave it: nothing is changed on the way and nothing can't cross. */
export function takesAsGiven({ platform }: Pick<PhoneModel, 'platform'>): boolean {
  return platform === 'locker'
}

/** Whether a phone takes nothing of a kind. */
export function takesNone(phone: PhoneModel, kind: string): boolean {
  if (takesAsGiven(phone)) return false
  const { write } = capabilityOf<object>(phone, kind)
  return 'cannot' in write
}
