<script setup lang="ts">
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { packOf } from '../../kinds/registry.ts'
import { words } from '../../words/words.ts'
import AccountTable from './AccountTable.vue'
import FiguresTable from './FiguresTable.vue'
import { openedItems, wholeOf, type Opened, type Side } from './opened.ts'
import { ticketAccount } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(ticketAccount)

/** One kind’s account, its second figures, and its board where it has one. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; stamp: string }>()
const emit = defineEmits<{ open: [next: Opened]; show: [] }>()
const { kind } = props.row
const board = packOf(kind)?.board
const openSum = (side: Side, facet: string) => emit('open', openedItems(kind, wholeOf(props.row, side), { facet }))
</script>

<template>
  <h2 class="mb-2 text-[0.95rem]">
    {{ said.account }}<template v-if="ticket.ledger.length > 1">{{ ' ' }}{{ said.of(words.many[row.kind]!) }}</template>
    <span class="ml-2 font-body text-xs font-normal text-soft">{{ said.whatEachCount }}</span>
  </h2>
  <AccountTable
    :row="row"
    :can-open="!ticket.erasedAt"
    @open="(filter) => emit('open', openedItems(kind, filter))"
    @own="(side) => emit('open', { what: 'own', kind, side })"
  />
  <FiguresTable
    :row="row"
    :can-open="!ticket.erasedAt"
    @groups="(side, by) => emit('open', { what: 'groups', kind, side, by })"
    @sum="openSum"
  />
  <component :is="board" v-if="board && !ticket.erasedAt" :ticket="ticket" :stamp="stamp" @show="emit('show')" />
</template>
