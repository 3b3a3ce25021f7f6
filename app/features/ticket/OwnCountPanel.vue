<script setup lang="ts">
import { computed } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import DataTable from '../../components/base/DataTable.vue'
import FigureButton from '../../components/base/FigureButton.vue'
import ListPanel from '../../components/base/ListPanel.vue'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { openedItems, wholeOf, type Opened } from './opened.ts'
import { derivedFigures, shownFigure } from './figures.ts'
import { ownCountPanel } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(ownCountPanel)

/** What a phone's own count is made of: the items it listed, and the entries it counts though nobody stored them. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; side: 'old' | 'new' }>()
const emit = defineEmits<{ close: []; open: [next: Opened] }>()
const phone = computed(() => props.ticket[props.side])
const listed = computed<{ n: number; opens: EntryFilter }>(() =>
  props.side === 'old' ? { n: props.row.old.read, opens: 'read' } : { n: props.row.new.last ?? 0, opens: 'last' },
)
const derived = computed(() => derivedFigures(props.row, props.side))
const own = computed(() => (props.side === 'old' ? props.row.old.own : props.row.new.own) ?? 0)
interface Line {
  readonly label: string
  readonly n: number
  readonly meaning?: string | undefined
  readonly opens?: Opened | undefined
  readonly isSum?: boolean
}
const lines = computed<Line[]>(() => {
  const { row, side } = props
  return [
    { label: said.listedItemByItem, n: listed.value.n, opens: openedItems(row.kind, listed.value.opens) },
    ...(row.new.parts > 0 && side === 'new'
      ? [{ label: said.furtherRecordsOfItems, n: row.new.parts, opens: openedItems(row.kind, 'parts') }]
      : []),
    ...derived.value.map(({ of, n, opens }) => ({
      label: words.derived[of] ?? of,
      meaning: words.derivedMeanings[of],
      n,
      opens: opens?.as === 'facet' ? openedItems(row.kind, wholeOf(row, side), { facet: opens.name! }) : undefined,
    })),
    { label: said.itsOwnCount, n: own.value, isSum: true },
  ]
})
const persons = computed(() => shownFigure(props.row, props.side, 'persons'))
</script>

<template>
  <ListPanel head="own-head" :close="said.closeCount" @close="emit('close')">
    <template #title>{{ said.whatCounts(words.kinds[row.kind]!, words.sides[side], phone.model) }}</template>
    <DataTable
      class="mt-3"
      :label="said.ownCount"
      :rows="lines"
      :key-of="(line) => line.label"
      :row-of="({ isSum }) => ({ isSum })"
      :columns="[
        { key: 'label', names: true },
        { key: 'n', isRight: true },
      ]"
    >
      <template #label="{ row: line }"
        >{{ line.label }}<span v-if="line.meaning" class="block text-xs text-soft">{{ line.meaning }}</span></template
      >
      <template #n="{ row: line }">
        <FigureButton v-if="line.opens" :n="line.n" @open="emit('open', line.opens)" /><template v-else>{{ number(line.n) }}</template>
      </template>
    </DataTable>
    <p v-if="persons !== undefined" class="mt-2 text-soft">
      {{ said.itsOwnScreenShows(number(persons)) }}
    </p>
  </ListPanel>
</template>
