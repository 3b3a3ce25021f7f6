import { isFolder, takesAsGiven, type PhoneModel } from '../phones/capability.ts'
import type { Formed, Kind } from './kind.ts'

/**
 * The form an item takes on the other side, with every change named, or the rule by which it can't cross. A locker
 * changes none; open files only what their standard, or good sense, has no place for.
 */
export function formOn<Item>(kind: Pick<Kind<Item>, 'change' | 'archive'>, item: Item, to: PhoneModel): Formed<Item> {
  if (!takesAsGiven(to)) return kind.change(item, to)
  if (!isFolder(to)) return { item, changes: [] }
  if (!kind.archive) return { cannot: 'not-known' }
  return kind.archive.form?.(item) ?? { item, changes: [] }
}
