<script setup lang="ts">
import { computed } from 'vue'
import { routes } from '#contracts/http/routes.ts'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
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
}>()
const rows = computed(() => [
  ...props.ticket.ledger.map((row) => ({ row, read: row.old.read, unreadable: row.fates.unreadable })),
  {
    row: null,
    read: props.ticket.ledger.reduce((sum, row) => sum + row.old.read, 0),
    unreadable: props.ticket.ledger.reduce((sum, row) => sum + row.fates.unreadable, 0),
  },
])
const isReading = computed(() => props.ticket.run !== null)
const copy = computed(() => props.ticket.old.copy)
const isOpen = (row: LedgerRow | null) => row !== null && !props.ticket.erasedAt
</script>

<template>
  <p class="mb-3 text-soft" data-testid="look-line">
    <template v-if="ticket.erasedAt">{{ said.closed }}</template>
    <template v-else-if="isReading">{{ said.reading }}</template>
    <template v-else>{{ said.asOf(copy?.asOf ? day(copy.asOf) : '', number(copy?.shortThen ?? 0)) }}</template>
  </p>
  <DataTable
    :label="said.whatItHolds"
    :rows="rows"
    :key-of="({ row }) => row?.kind ?? 'all'"
    :row-of="({ row }) => ({ isSum: row === null, 'data-kind': row?.kind })"
    :columns="[
      { key: 'kind', head: common.kind, names: true },
      { key: 'read', head: said.inCopy, isRight: true },
      { key: 'unreadable', head: said.unreadable, isRight: true },
      { key: 'bytes', head: said.size, isRight: true },
      { key: 'by', head: said.lookBy, isHeadHidden: true },
    ]"
  >
    <template #kind="{ row: { row } }"
      ><span class="flex items-center gap-2"
        ><component :is="packOf(row.kind)?.icon" v-if="row" :size="16" aria-hidden="true" />{{
          row ? words.kinds[row.kind] : common.all
        }}</span
      ></template
    >
    <template #read="{ row: { row, read } }"
      ><FigureButton
        :n="read"
        :can-open="isOpen(row)"
        :aria-label="said.openOne(sayItems(row?.kind ?? '', read))"
        @open="$emit('open', row!.kind, 'all')"
    /></template>
    <template #unreadable="{ row: { row, unreadable } }"
      ><FigureButton
        :n="unreadable"
        :can-open="isOpen(row) && unreadable > 0"
        :aria-label="said.openUnreadable(sayItems(row?.kind ?? '', unreadable))"
        @open="$emit('open', row!.kind, 'unreadable')"
    /></template>
    <template #bytes="{ row: { row } }">{{ bytes(row ? row.old.bytes : ticket.ledger.reduce((sum, r) => sum + r.old.bytes, 0)) }}</template>
    <template #by="{ row: { row } }"
      ><span v-if="row && !isReading && !ticket.erasedAt && row.old.read > 0" class="flex gap-x-3 text-xs">
        <LinkButton v-if="words.groups[row.kind]" @click="$emit('groups', row.kind, 'group')">{{
          said.by(words.groups[row.kind]!.one)
        }}</LinkButton>
        <LinkButton v-if="packOf(row.kind)?.byMonth" @click="$emit('months', row.kind)">{{ common.byMonth }}</LinkButton></span
      ></template
    >
  </DataTable>
  <div v-if="!ticket.erasedAt" class="mt-4 flex flex-wrap gap-2">
    <NuxtLink
      v-if="copy"
      :to="{ path: '/book-in', query: { copy: String(copy.id) } }"
      class="rounded-[3px] border border-ink bg-ink px-4 py-2 font-semibold text-sheet"
      >{{ said.putBack }}</NuxtLink
    >
    <AppButton look="quiet" :busy="busy === 'close-look'" @click="$emit('act', 'close-look', ofTicket(routes.closeLook))">{{
      said.close
    }}</AppButton>
  </div>
</template>
