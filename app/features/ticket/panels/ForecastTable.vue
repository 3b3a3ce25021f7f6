<script setup lang="ts">
import { computed } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import DataTable from '../../../components/base/DataTable.vue'
import FigureButton from '../../../components/base/FigureButton.vue'
import { bytes, itemsAndReasons, number, reason } from '../../../words/say.ts'
import { faceOf } from '#core/kinds/faces.ts'
import { packOf } from '../../../kinds/registry.ts'
import { common } from '../../../words/common.ts'
import { forecastTable } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(forecastTable)

/** What a kind is going to be on the new phone, as sums that close, and what changes on the way. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; forecast: TicketView['forecasts'][number] }>()
defineEmits<{ open: [filter: EntryFilter, reason?: string] }>()
const toCarry = computed(() => props.forecast.counts.carried + props.forecast.counts.changed)
interface Line {
  readonly label: string
  readonly n: number
  readonly opens?: EntryFilter
  readonly reason?: string
  readonly say?: string
  readonly isSum?: boolean
}
const lines = computed<Line[]>(() => {
  const n = props.forecast.counts
  const byHand = props.row.toInstall
  return [
    { label: said.carriedAsTheyAre, n: n.carried, opens: 'willCarry' as const },
    { label: said.changedOnWay, n: n.changed - byHand, opens: 'willChange' as const },
    { label: said.installedByHand, n: byHand, opens: 'toInstall' as const },
    { label: said.joinedWithTheirs, n: n.merged, opens: 'willMerge' as const },
    {
      label: common.alreadyThere,
      n: n.alreadyThere,
      opens: props.ticket.areRolesFrozen ? ('alreadyThere' as const) : ('willBeThere' as const),
    },
    { label: common.notChosen, n: n.notChosen, opens: 'notChosen' as const },
    { label: common.cantCross, n: n.cannotCross, opens: 'cannotCross' as const },
    { label: said.unreadable, n: n.unreadable, opens: 'unreadable' as const },
  ].filter((line) => line.n > 0)
})
const sum = computed(() => lines.value.reduce((total, line) => total + line.n, 0))
/** What it comes to, on both phones. */
const totals = computed<Line[]>(() => {
  const { counts } = props.forecast
  const { freeBytes } = props.ticket.new
  return [
    { label: said.oldCount, n: sum.value, isSum: true },
    { label: said.newPhoneThen(number(props.row.new.first ?? 0), number(toCarry.value)), n: counts.expected },
    ...(counts.parts > 0
      ? [
          {
            label: said.further,
            n: counts.parts,
            opens: 'toCome' as const,
            reason: packOf(props.row.kind)?.furtherReason,
          },
        ]
      : []),
    ...(freeBytes !== null && !isMedia.value ? [{ label: said.free, n: freeBytes, say: bytes(freeBytes) }] : []),
  ]
})
/** Of what is not chosen, what nobody chose to leave. */
const left = computed(() => props.ticket.reasons.filter(({ kind, fate }) => kind === props.row.kind && fate === 'notChosen'))
const changes = computed(() => [
  ...props.forecast.changes.map(({ code, items, loss }) => ({
    code,
    items,
    opens: 'toCome' as EntryFilter,
    word: loss ? said.loss : said.kept,
    tone: loss ? 'text-ochre' : 'text-verdigris',
  })),
  ...[...props.forecast.rules, ...left.value].map(({ code, items, fate }) => ({
    code,
    items,
    opens: fate as EntryFilter,
    word: said.stays,
    tone: fate === 'notChosen' ? 'text-soft' : 'text-madder',
  })),
])
const sums = computed(() =>
  itemsAndReasons(
    props.forecast.counts.changed,
    props.forecast.changes.reduce((all, { items }) => all + items, 0),
  ),
)
const isMedia = computed(() => faceOf(props.row.kind).isMedia === true)
</script>

<template>
  <DataTable
    class="mb-3"
    :label="common.forecast"
    :rows="[...lines, ...totals]"
    :key-of="(line) => line.label"
    :row-of="({ isSum }) => ({ isSum })"
    :columns="[
      { key: 'label', names: true },
      { key: 'n', isRight: true, class: 'whitespace-nowrap' },
    ]"
  >
    <template #label="{ row: line }">{{ line.label }}</template>
    <template #n="{ row: line }">
      <FigureButton v-if="line.opens" :n="line.n" @open="$emit('open', line.opens, line.reason)" /><template v-else>{{
        line.say ?? number(line.n)
      }}</template>
    </template>
  </DataTable>
  <slot />
  <template v-if="changes.length > 0">
    <h3 class="mb-1 font-body text-xs font-semibold text-soft">
      {{ said.whatChangesAndWhy }}<template v-if="sums">: {{ sums }}</template>
    </h3>
    <ul class="mb-3 space-y-1">
      <li v-for="c in changes" :key="`${c.opens} ${c.code}`" class="grid grid-cols-[3.1rem_2.4rem_1fr] gap-1">
        <FigureButton class="self-start text-right leading-5 font-bold" :n="c.items" @open="$emit('open', c.opens, c.code)" /><span
          class="text-xs leading-5 font-semibold"
          :class="c.tone"
          >{{ c.word }}</span
        ><span>{{ reason(c.code) }}</span>
      </li>
    </ul>
  </template>
</template>
