/** Whether a phone gives a kind, and what it does with what it takes; or why it takes nothing of it. */
export interface KindCapability<Write> {
  readonly read: boolean
  readonly write: Write | { readonly cannot: string }
}

/** By kind; what each means to a phone stands in the kind's own folder. */
export type PhoneCapability = Readonly<Record<string, KindCapability<unknown>>>

/** What a ticket's side can be of: a phone's platform, files that are brought, a locker, files that are taken home. */
export const sidePlatforms = ['android', 'ios', 'keypad', 'file', 'locker', 'folder'] as const
export type SidePlatform = (typeof sidePlatforms)[number]

export interface PhoneModel {
  readonly maker: string
  readonly model: string
  readonly platform: SidePlatform
  readonly capability: PhoneCapability
  /** Of its platform; undefined where nobody said it. */
  readonly version?: string
  /** Where its clock is, once the phone said so (IANA). */
  readonly zone?: string
}

const unknown: KindCapability<never> = { read: false, write: { cannot: 'not-known' } }

/** What a phone does with a kind, in the kind's own terms; a phone of which nothing is known gives and takes none. */
export function capabilityOf<Ability>(phone: PhoneModel, kind: string): KindCapability<Ability> {
  return (phone.capability[kind] as KindCapability<Ability> | undefined) ?? unknown
}

/** A locker, and what is taken home as files, take each record as the phone gave it. */
export function takesAsGiven({ platform }: Pick<PhoneModel, 'platform'>): boolean {
  return platform === 'locker' || platform === 'folder'
}

/** It is taken home as open files. */
export function isFolder({ platform }: Pick<PhoneModel, 'platform'>): boolean {
  return platform === 'folder'
}

/** Whether a phone takes nothing of a kind. */
export function takesNone(phone: PhoneModel, kind: string): boolean {
  if (takesAsGiven(phone)) return false
  const { write } = capabilityOf<object>(phone, kind)
  return 'cannot' in write
}
