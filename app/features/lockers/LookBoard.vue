<script setup lang="ts">
import { computed } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import SentenceBox from '../../components/base/SentenceBox.vue'
import FilesOut from '../ticket/FilesOut.vue'
import { shortNameOf } from '../../words/copy-line.ts'
import AppButton from '../../components/base/AppButton.vue'
import DataTable from '../../components/base/DataTable.vue'
import FigureButton from '../../components/base/FigureButton.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import { packOf } from '../../kinds/registry.ts'
import { bytes, day, items as sayItems, number } from '../../words/say.ts'
import { common } from '../../words/common.ts'
import { lookBoard as said } from '../../words/lockers.ts'
import { words } from '../../words/words.ts'
import { ofTicket, type TicketCall } from '../ticket/ticket-call.ts'
import type { GroupedBy } from '../ticket/opened.ts'

/** What a copy holds, by kind: every count opens, as on a phone; nothing is carried from here. */
const props = defineProps<{ ticket: TicketView; busy: string }>()
defineEmits<{
  act: [name: string, call: TicketCall]
  open: [kind: string, filter: EntryFilter]
  groups: [kind: string, by: GroupedBy]
  months: [kind: string]
  show: []
}>()
interface Count {
  readonly key: string
  readonly head: string
  readonly opens: EntryFilter
  /** Null until it is counted. */
  readonly of: (row: LedgerRow) => number | null
}
const isComparing = computed(() => props.ticket.new.place !== 'nothing')
const names = computed(() => ({ old: shortNameOf(props.ticket.old), new: shortNameOf(props.ticket.new) }))
const countsOf = (row: LedgerRow) => props.ticket.forecasts.find(({ kind }) => kind === row.kind)?.counts
/** What is in both is known once both are read: until then nothing is said to be only in one. */
const both = (row: LedgerRow) => countsOf(row)?.alreadyThere ?? null
const beyond = (n: number | null, row: LedgerRow) => {
  const inBoth = both(row)
  return n === null || inBoth === null ? null : n - inBoth
}
const without = (n: number | null, changed: number) => (n === null ? null : n - changed)
const unreadable: Count = { key: 'unreadable', head: said.unreadable, opens: 'unreadable', of: (row) => row.fates.unreadable }
/** What is counted of each kind; each opens to its items. */
const counts = computed((): readonly Count[] =>
  isComparing.value
    ? [
        { key: 'inOld', head: said.heads.inOld(names.value.old), opens: 'all', of: (row) => row.old.read },
        {
          key: 'onlyOld',
          head: said.heads.onlyOld(names.value.old),
          opens: 'onlyHere',
          of: (row) => without(beyond(row.fates.pending, row), row.new.altered),
        },
        unreadable,
        // told of two of one phone alone: there a record has a name that stays
        ...(props.ticket.ledger.some((row) => row.new.altered > 0)
          ? [
              {
                key: 'changed',
                head: said.heads.changed,
                opens: 'differs',
                of: (row) => (both(row) === null ? null : row.new.altered),
              } satisfies Count,
            ]
          : []),
        { key: 'both', head: said.heads.both, opens: 'willBeThere', of: both },
        {
          key: 'onlyNew',
          head: said.heads.onlyNew(names.value.new),
          opens: 'cameOtherwise',
          of: (row) => without(beyond(row.new.first, row), row.new.altered),
        },
        { key: 'inNew', head: said.heads.inNew(names.value.new), opens: 'first', of: (row) => row.new.first },
      ]
    : [{ key: 'inOld', head: said.inCopy, opens: 'all', of: (row) => row.old.read }, unreadable],
)
const sum = (of: Count['of']) => {
  const known = props.ticket.ledger.map(of)
  return known.some((n) => n === null) ? null : known.reduce<number>((all, n) => all + n!, 0)
}
const rows = computed(() => [...props.ticket.ledger.map((row) => ({ row })), { row: null }])
/** A phone that is not ready yet: made ready here, and read when it is. */
const waitsForPhone = computed(() => !props.ticket.run && props.ticket.forecasts.length === 0 && !props.ticket.erasedAt)
const isReading = computed(() => props.ticket.run !== null)
const copy = computed(() => props.ticket.old.copy)
const isOpen = (row: LedgerRow | null, n: number | null) => row !== null && n !== null && n > 0 && !props.ticket.erasedAt
</script>

<template>
  <p class="mb-3 text-soft" data-testid="look-line">
    <template v-if="ticket.erasedAt">{{ said.closed }}</template>
    <template v-else-if="isReading">{{ said.reading }}</template>
    <template v-else-if="isComparing">{{ said.compareLead }}</template>
    <template v-else>{{ said.asOf(copy?.asOf ? day(copy.asOf) : '', number(copy?.shortThen ?? 0)) }}</template>
  </p>
  <template v-if="waitsForPhone">
    <SentenceBox v-if="!ticket.old.isReady" tone="note" class="mb-3">{{ said.notReady }}</SentenceBox>
    <AppButton v-else look="accent" :busy="busy === 'count-in'" @click="$emit('act', 'count-in', ofTicket(calls.countIn))">{{
      said.readNow
    }}</AppButton>
  </template>
  <DataTable
    v-else
    :label="said.whatItHolds"
    :rows="rows"
    :key-of="({ row }) => row?.kind ?? 'all'"
    :row-of="({ row }) => ({ isSum: row === null, 'data-kind': row?.kind })"
    :columns="[
      { key: 'kind', head: common.kind, names: true },
      ...counts.map(({ key, head }) => ({ key, head, isRight: true })),
      // beside each other the counts are what is looked for
      ...(isComparing
        ? []
        : [
            { key: 'bytes', head: said.size, isRight: true },
            { key: 'by', head: said.lookBy, isHeadHidden: true },
          ]),
    ]"
  >
    <template #kind="{ row: { row } }"
      ><span class="flex items-center gap-2"
        ><component :is="packOf(row.kind)?.icon" v-if="row" :size="16" aria-hidden="true" />{{
          row ? words.kinds[row.kind] : common.all
        }}</span
      ></template
    >
    <template v-for="count in counts" :key="count.key" #[count.key]="{ row: { row } }"
      ><FigureButton
        v-if="(row ? count.of(row) : sum(count.of)) !== null"
        :n="(row ? count.of(row) : sum(count.of))!"
        :can-open="isOpen(row, row && count.of(row))"
        :aria-label="row ? said.countOf(sayItems(row.kind, count.of(row)!), count.head) : undefined"
        @open="$emit('open', row!.kind, count.opens)"
      /><template v-else>—</template></template
    >
    <template #bytes="{ row: { row } }">{{ bytes(row ? row.old.bytes : sum((one) => one.old.bytes)!) }}</template>
    <template #by="{ row: { row } }"
      ><span v-if="row && !isReading && !ticket.erasedAt && row.old.read > 0" class="flex gap-x-3 text-xs">
        <LinkButton v-if="words.groups[row.kind]" @click="$emit('groups', row.kind, 'group')">{{
          said.by(words.groups[row.kind]!.one)
        }}</LinkButton>
        <LinkButton v-if="packOf(row.kind)?.byMonth" @click="$emit('months', row.kind)">{{ common.byMonth }}</LinkButton></span
      ></template
    >
  </DataTable>
  <FilesOut v-if="!isComparing && !isReading" class="mt-4 max-w-md" :ticket="ticket" @show="$emit('show')" />
  <div v-if="!ticket.erasedAt" class="mt-4 flex flex-wrap gap-2">
    <NuxtLink
      v-if="copy && !isComparing"
      :to="{ path: '/book-in', query: { copy: String(copy.id) } }"
      class="rounded-[3px] border border-ink bg-ink px-4 py-2 font-semibold text-sheet"
      >{{ said.putBack }}</NuxtLink
    >
    <AppButton look="quiet" :busy="busy === 'close-look'" @click="$emit('act', 'close-look', ofTicket(calls.closeLook))">{{
      said.close
    }}</AppButton>
  </div>
</template>
