<script setup lang="ts">
import { computed, ref, toRef } from 'vue'
import { useMediaQuery } from '@vueuse/core'
import { ChartColumn, ChevronDown, ChevronRight } from '@lucide/vue'
import { packOf } from '../../kinds/registry.ts'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import { useGridKeys } from '../../composables/use-grid-keys.ts'
import { number } from '../../words/say.ts'
import { groupVerdict } from '../../words/standing.ts'
import { words } from '../../words/words.ts'
import { columnsFor, type Column } from './ledger-columns.ts'
import { useLedgerGroups } from './use-ledger-groups.ts'
import type { Opened } from './opened.ts'
import { useSaid, useSideNames } from './side-names.ts'
import VerdictMark from './VerdictMark.vue'
import { common } from '../../words/common.ts'
import { ledgerTable } from '../../words/ticket.ts'

const said = useSaid(ledgerTable)

/** The spine: a row a kind, filling from left to right. Every number opens its items. */
const props = defineProps<{ rows: readonly LedgerRow[]; opened: Opened | null; canOpen: boolean; picked: string }>()
defineEmits<{ open: [kind: string, filter: EntryFilter]; account: [kind: string]; months: [kind: string] }>()

const table = ref<HTMLElement>()
const { onKeydown, onFocusin } = useGridKeys(table)

const columns = computed(() => columnsFor(props.rows))
const { lines, toggle } = useLedgerGroups(
  toRef(() => props.rows),
  toRef(() => props.picked),
)
const sides = useSideNames()
const isNarrow = useMediaQuery('(width < 80rem)')
/** With many columns or long figures everything stands closer, so that every verdict is whole however wide the page is. */
const density = computed(() => {
  const isLong = columns.value.some((column) => props.rows.some((row) => (column.of(row) ?? 0) >= 100_000))
  const n = columns.value.length + (isLong ? 2 : 0)
  return isNarrow.value ? (n > 9 ? 2 : 1) : n > 8 ? 1 : 0
})
const spanOf = (group: Column['group']) => columns.value.filter((column) => column.group === group).length
// the verdict stands with the new phone
const groups = computed(() => [
  { key: 'old', head: sides.value.old, span: spanOf('old') },
  { key: 'way', head: said.onWay, span: spanOf('way') },
  { key: 'new', head: sides.value.new, span: spanOf('new') + 1 },
])
const isFirst = (column: Column, i: number) => i > 0 && columns.value[i - 1]!.group !== column.group
const shown = (column: Column, row: LedgerRow) => {
  const n = column.of(row)
  return n === null || (n === 0 && !column.isStrong && column.group !== 'new') ? '—' : number(n)
}
const agrees = (row: LedgerRow) => row.verdict === 'agrees' || row.verdict === 'agrees-with-notes'
const isOpen = (row: LedgerRow, column: Column) =>
  props.opened?.what === 'items' && props.opened.kind === row.kind && props.opened.filter === column.opens
const total = (column: Column, rows = props.rows) => {
  const known = rows.map(column.of).filter((n): n is number => n !== null)
  const sum = known.reduce((a, b) => a + b, 0)
  return known.length === 0 || (sum === 0 && !column.isStrong && column.group !== 'new') ? '—' : number(sum)
}
</script>

<template>
  <div class="relative overflow-x-auto border border-rule bg-sheet">
    <table
      ref="table"
      role="grid"
      class="w-full text-right dense:text-[0.8rem] denser:text-[0.72rem]"
      :data-density="density"
      :aria-label="common.ledger"
      @keydown="onKeydown"
      @focusin="onFocusin"
    >
      <thead class="text-xs dense:text-[0.7rem] denser:text-[0.66rem]">
        <tr class="border-b border-rule">
          <th scope="col">
            <span class="sr-only">{{ common.kind }}</span>
          </th>
          <th
            v-for="g in groups"
            :key="g.key"
            :colspan="g.span"
            scope="colgroup"
            class="px-2.5 py-1.5 text-left font-semibold"
            :class="{ 'border-l border-rule': g.key !== 'old' }"
          >
            {{ g.head }}
          </th>
        </tr>
        <tr class="border-b border-ink align-bottom text-soft">
          <th scope="col" class="px-2.5 py-1.5 text-left font-normal">{{ common.kind }}</th>
          <th
            v-for="(c, i) in columns"
            :key="c.key"
            scope="col"
            class="px-1 py-1.5 font-normal dense:px-0.5"
            :class="{ 'border-l border-rule': isFirst(c, i) }"
          >
            {{ c.head }}
          </th>
          <th scope="col" class="px-1.5 py-1.5 text-left font-normal">{{ common.verdict }}</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="line in lines" :key="line.key">
          <tr v-if="line.as === 'group'" class="border-b border-rule bg-panel last:border-0" :data-group="line.group">
            <th scope="row" class="px-2 py-2 text-left font-semibold whitespace-nowrap dense:px-1.5">
              <button type="button" class="flex items-center gap-2" :aria-expanded="line.isOpen" @click="toggle(line.group)">
                <component :is="line.isOpen ? ChevronDown : ChevronRight" :size="16" aria-hidden="true" class="dense:size-3" />{{
                  said.groupOf(words.kindGroups[line.group]!, line.rows.length)
                }}
              </button>
            </th>
            <td v-for="(c, i) in columns" :key="c.key" class="px-0.5 py-1 dense:px-0" :class="{ 'border-l border-rule': isFirst(c, i) }">
              <button
                type="button"
                class="w-full rounded-[3px] px-1 py-1 text-right text-[0.9rem] text-soft dense:px-0.5 dense:text-[0.78rem] denser:text-[0.7rem] hover:bg-row"
                :class="{ 'font-bold': c.isStrong, 'font-bold text-madder': line.rows.some((row) => c.isBad?.(row)) }"
                :data-count="c.key"
                :aria-label="said.openGroup(words.kindGroups[line.group]!, c.head, total(c, line.rows))"
                @click="toggle(line.group)"
              >
                {{ total(c, line.rows) }}
              </button>
            </td>
            <td class="px-1.5 text-left text-soft dense:px-1">{{ groupVerdict(line.rows) }}</td>
          </tr>
          <tr
            v-else
            v-for="row in [line.row]"
            :key="row.kind"
            :class="{ 'bg-row/60': rows.length > 1 && row.kind === picked }"
            class="border-b border-rule last:border-0"
            :data-kind="row.kind"
            :data-verdict="row.verdict"
          >
            <th
              scope="row"
              class="px-2 py-2.5 text-left font-semibold whitespace-nowrap dense:px-1.5"
              :class="{ 'pl-8 dense:pl-5': line.isInGroup }"
            >
              <span class="flex items-center justify-between gap-1"
                ><button
                  type="button"
                  class="flex items-center gap-2 underline-offset-2 hover:underline"
                  @click="$emit('account', row.kind)"
                >
                  <component :is="packOf(row.kind)?.icon" :size="16" aria-hidden="true" class="dense:hidden" />{{ words.kinds[row.kind] }}
                </button>
                <button
                  v-if="canOpen && row.new.first !== null && packOf(row.kind)?.byMonth"
                  type="button"
                  class="-my-1 grid size-6 place-items-center rounded-[3px] text-soft hover:bg-row hover:text-ink denser:hidden"
                  :title="said.byMonthOldAgainst(words.kinds[row.kind]!)"
                  :aria-label="said.byMonthOldAgainst(words.kinds[row.kind]!)"
                  @click="$emit('months', row.kind)"
                >
                  <ChartColumn :size="14" aria-hidden="true" /></button
              ></span>
            </th>
            <td v-for="(c, i) in columns" :key="c.key" class="px-0.5 py-1.5 dense:px-0" :class="{ 'border-l border-rule': isFirst(c, i) }">
              <button
                type="button"
                class="w-full rounded-[3px] px-1 py-1 text-right text-[0.9rem] dense:px-0.5 dense:text-[0.78rem] denser:text-[0.7rem] hover:bg-row disabled:cursor-default disabled:hover:bg-transparent"
                :class="[
                  {
                    'font-bold': c.isStrong,
                    'font-bold text-madder': c.isBad?.(row),
                    'bg-row ring-1 ring-ink': isOpen(row, c),
                  },
                  c.of(row) ? '' : 'text-soft',
                ]"
                :data-count="c.key"
                :disabled="!canOpen || c.of(row) === null"
                :aria-label="said.openItems(words.kinds[row.kind]!, c.head, shown(c, row))"
                @click="c.opens ? $emit('open', row.kind, c.opens) : $emit('account', row.kind)"
              >
                <span :class="{ 'double-rule': c.key === 'last' && agrees(row) }">{{ shown(c, row) }}</span>
              </button>
            </td>
            <td class="px-1.5 text-left dense:px-1 denser:py-1">
              <VerdictMark :row="row" :can-open="canOpen" @open="(filter) => $emit('open', row.kind, filter)" />
            </td>
          </tr>
        </template>
      </tbody>
      <tfoot v-if="rows.length > 1" class="border-t border-ink font-bold">
        <tr>
          <th scope="row" class="px-2.5 py-2 text-left">{{ said.allKinds }}</th>
          <td
            v-for="(c, i) in columns"
            :key="c.key"
            class="px-1.5 text-[0.9rem] dense:px-1 dense:text-[0.78rem] denser:px-0.5 denser:text-[0.7rem]"
            :class="{ 'border-l border-rule': isFirst(c, i) }"
          >
            {{ total(c) }}
          </td>
          <td />
        </tr>
      </tfoot>
    </table>
  </div>
</template>
