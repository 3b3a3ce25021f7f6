import { formOn } from '#core/kinds/form.ts'
import type { Joined, Kind, ReadTools } from '#core/kinds/kind.ts'
import type { PhoneModel } from '#core/phones/capability.ts'

export interface TwoRecords {
  /** As the old phone gave it. */
  readonly ours: Uint8Array
  /** As the new phone gave it. */
  readonly theirs: Uint8Array
}

export interface JoinHow {
  readonly target: PhoneModel
  readonly oldTools: ReadTools
  readonly newTools: ReadTools
}

/** Ours in the form it has on the new phone, theirs, and the record the two would make; undefined when one can't be read or can't cross. */
export function joinRecords<Item>(
  kind: Kind<Item>,
  { ours, theirs }: TwoRecords,
  { target, oldTools, newTools }: JoinHow,
): { readonly form: Item; readonly its: Item; readonly joined: Joined<Item> } | undefined {
  const [mine, its] = [kind.read(ours, oldTools), kind.read(theirs, newTools)]
  const form = mine.ok ? formOn(kind, mine.item, target) : undefined
  if (!form || 'cannot' in form || !its.ok || !kind.join) return undefined
  return { form: form.item, its: its.item, joined: kind.join(form.item, its.item, target, newTools) }
}
