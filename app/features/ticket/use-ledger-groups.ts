import { computed, ref, watch, type Ref } from 'vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import { faceOf } from '#core/kinds/faces.ts'
import { packs } from '../../kinds/registry.ts'

/** A line of the ledger: a kind, or a group of kinds that opens, with its sum. */
export type LedgerLine =
  | { readonly as: 'row'; readonly key: string; readonly row: LedgerRow; readonly isInGroup: boolean }
  | { readonly as: 'group'; readonly key: string; readonly group: string; readonly rows: readonly LedgerRow[]; readonly isOpen: boolean }

const groupOf = ({ kind }: LedgerRow) => faceOf(kind).group

/**
 * The six kinds every ticket knows stand first; the others in groups that open. A group opens by itself where something
 * in it differs, or is looked at; a group of one is no group.
 */
export function useLedgerGroups(rows: Ref<readonly LedgerRow[]>, picked: Ref<string>) {
  const open = ref<Readonly<Record<string, boolean>>>({})
  const groups = computed(() => {
    const all = new Map<string, LedgerRow[]>()
    for (const row of rows.value) {
      const group = groupOf(row)
      if (group) all.set(group, [...(all.get(group) ?? []), row])
    }
    const place = ({ kind }: LedgerRow) => packs.findIndex(({ code }) => code === kind)
    return [...all].filter(([, its]) => its.length > 1).map(([group, its]) => [group, its.sort((a, b) => place(a) - place(b))] as const)
  })
  watch(
    () =>
      groups.value
        .filter(([, its]) => its.some(({ verdict, kind }) => verdict === 'differs' || kind === picked.value))
        .map(([group]) => group),
    (now, before = []) => {
      for (const group of now) if (!before.includes(group)) open.value = { ...open.value, [group]: true }
    },
    { immediate: true },
  )
  const lines = computed<LedgerLine[]>(() => {
    const isGrouped = (row: LedgerRow) => groups.value.some(([, its]) => its.includes(row))
    const line = (row: LedgerRow, isInGroup: boolean): LedgerLine => ({ as: 'row', key: row.kind, row, isInGroup })
    return [
      ...rows.value.filter((row) => !isGrouped(row)).map((row) => line(row, false)),
      ...groups.value.flatMap(([group, its]) => {
        const isOpen = open.value[group] === true
        return [
          { as: 'group', key: `group.${group}`, group, rows: its, isOpen } as const,
          ...(isOpen ? its.map((row) => line(row, true)) : []),
        ]
      }),
    ]
  })
  const toggle = (group: string) => (open.value = { ...open.value, [group]: !open.value[group] })
  return { lines, toggle }
}
