import { takesAsGiven, type PhoneModel } from '../phones/capability.ts'
import type { Change, Kind } from './kind.ts'

/**
 * The form an item takes on the other side, with every change named, or the rule by which it can't cross. A place that
 * takes records as they were given changes none.
 */
export function formOn<Item>(
  kind: Pick<Kind<Item>, 'change'>,
  item: Item,
  to: PhoneModel,
): { readonly item: Item; readonly changes: readonly Change[] } | { readonly cannot: string } {
  return takesAsGiven(to) ? { item, changes: [] } : kind.change(item, to)
}
