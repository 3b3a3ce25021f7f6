<script setup lang="ts">
import { computed } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import { departures, fates as fateCodes, origins } from '#core/book/index.ts'
import DataTable from '../../components/base/DataTable.vue'
import FigureButton from '../../components/base/FigureButton.vue'
import { words } from '../../words/words.ts'
import { useSaid, useSideNames } from './side-names.ts'
import { derivedFigures } from './figures.ts'
import { common } from '../../words/common.ts'
import { accountTable } from '../../words/ticket.ts'

const said = useSaid(accountTable)

/** The account of one kind: both sides as sums that close, and the phones' own counts. Every line opens. */
const props = defineProps<{ row: LedgerRow; canOpen: boolean }>()
const emit = defineEmits<{ open: [filter: EntryFilter]; own: [side: 'old' | 'new'] }>()

const sides = useSideNames()
interface Line {
  readonly label: string
  readonly n: number
  readonly opens?: EntryFilter
  /** Opens to what the phone's own count is made of. */
  readonly own?: 'old' | 'new'
  readonly isSum?: boolean
  readonly isBad?: boolean
}
const part = (opens: EntryFilter, n: number): Line[] =>
  n > 0 ? [{ label: words.filters[opens]!, n, opens, isBad: ['lost', 'missing', 'double', 'leftBehind'].includes(opens) }] : []

/** Entries the phone counts though nobody stored them, by what they are. */
const derivedOf = (side: 'old' | 'new'): Line[] =>
  derivedFigures(props.row, side).map(({ of, n }) => ({ label: words.derived[of] ?? of, n, own: side }))

const oldLines = computed<Line[]>(() => {
  const { old, fates } = props.row
  const lines = fateCodes.flatMap((fate) => part(fate, fates[fate]))
  const sum: Line[] = [
    { label: old.late > 0 ? said.readAndLate : said.readFromOldPhone, n: old.read + old.late, opens: 'all', isSum: true },
  ]
  return [
    ...lines,
    ...sum,
    ...part('late', old.late),
    ...derivedOf('old'),
    ...(old.own === null ? [] : [{ label: said.oldPhonesOwnCount, n: old.own, own: 'old' as const }]),
  ]
})
const newLines = computed<Line[]>(() => {
  const { new: now } = props.row
  if (now.last === null) return []
  const kept = origins.flatMap((origin) => part(origin === 'editedThere' ? 'editedNow' : origin, now[origin]))
  return [
    ...kept,
    { label: said.lastCountReadAfresh, n: now.last, opens: 'last', isSum: true },
    ...part('parts', now.parts),
    ...derivedOf('new'),
    ...(now.own === null ? [] : [{ label: said.newPhonesOwnCount, n: now.own, own: 'new' as const }]),
  ]
})
const firstLines = computed<Line[]>(() => {
  const { new: now } = props.row
  if (now.first === null) return []
  const gone = departures.flatMap((departure) => part(departure === 'pushedOut' ? 'firstPushedOut' : departure, now[departure]))
  return [
    { label: said.firstCountOfNew, n: now.first, opens: 'first' },
    ...gone.map((line) => ({ ...line, label: said.ofThese(line.label.toLowerCase()) })),
  ]
})
const expectedLines = computed<Line[]>(() => {
  const { new: now, fates, toCarry, toChange, toInstall } = props.row
  if (now.first === null) return []
  const over = [
    ...part('carried', fates.carried),
    ...part('changed', fates.changed),
    ...part('editedThere', fates.editedThere),
    ...part('pushedOut', fates.pushedOut),
  ]
  const toCome = [...part('willCarry', toCarry), ...part('willChange', toChange), ...part('toInstall', toInstall)]
  const lost = fates.lost > 0 ? [{ label: said.takenNotFound, n: fates.lost, opens: 'lost' as const, isBad: true }] : []
  return [...firstLines.value, ...over, ...lost, ...toCome, { label: common.expected, n: now.expected ?? now.first, isSum: true }]
})
const tables = computed(() => [
  { head: sides.value.old, lines: oldLines.value },
  { head: said.expectedThere(sides.value.new), lines: expectedLines.value },
  { head: said.readAfreshThere(sides.value.new), lines: newLines.value },
])
</script>

<template>
  <div class="grid items-start gap-4 lg:grid-cols-3">
    <template v-for="t in tables" :key="t.head">
      <DataTable
        v-if="t.lines.length > 0"
        class="text-[0.8rem]"
        :caption="t.head"
        :rows="t.lines"
        :key-of="(line) => line.label"
        :row-of="({ isSum, isBad }) => ({ isSum, class: isBad ? 'text-madder' : '' })"
        :columns="[
          { key: 'label', names: true },
          { key: 'n', isRight: true },
        ]"
      >
        <template #label="{ row: line }">{{ line.label }}</template>
        <template #n="{ row: line }">
          <FigureButton
            :n="line.n"
            :can-open="canOpen && Boolean(line.opens || line.own)"
            :data-own="line.own"
            @open="line.own ? emit('own', line.own) : emit('open', line.opens!)"
          />
        </template>
      </DataTable>
    </template>
  </div>
</template>
