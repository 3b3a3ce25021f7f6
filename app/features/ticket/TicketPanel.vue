<script setup lang="ts">
import { computed } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import { lookBoard } from '../../words/lockers.ts'
import type { Stage, TicketView } from '#contracts/http/ticket.ts'
import GroupsPanel from './GroupsPanel.vue'
import ItemsPanel from './ItemsPanel.vue'
import JoiningsPanel from './JoiningsPanel.vue'
import { openedItems, type Opened } from './opened.ts'
import OwnCountPanel from './OwnCountPanel.vue'
import StagePanel from './StagePanel.vue'
import { ofKind, type TicketCall } from './ticket-call.ts'

/** Beside the ledger: what is open, or what the stage offers. */
const props = defineProps<{
  ticket: TicketView
  opened: Opened | null
  /** What the open slice is called, while names are shown. */
  title: string
  row: LedgerRow | undefined
  stage: Stage
  busy: string
  zone: string
  stamp: string
  canChoose: boolean
  canDecide: boolean
  picked: { side: 'old' | 'new'; code: string } | null
}>()
const emit = defineEmits<{
  act: [name: string, call: TicketCall]
  open: [next: Opened, title?: string]
  close: []
  show: []
  carry: []
  stage: [stage: Stage]
  kinds: []
}>()
const rowOf = (kind: string) => props.ticket.ledger.find((row) => row.kind === kind)
/** Once erased there is nothing left to open. */
const open = computed(() => (props.ticket.erasedAt && props.opened?.what !== 'own' ? null : props.opened))
const openRow = computed(() => (open.value ? rowOf(open.value.kind) : undefined))
type Slice = { facet?: string; storage?: string; reason?: string; group: string; when: string; isChosen: boolean }
const chooseSlice = (kind: string, slice: Slice) =>
  emit('act', 'choose', ofKind(calls.choose, kind, { choice: 'some', mode: 'add', slice }))
const chooseOne = (kind: string, key: string, isChosen: boolean) =>
  emit('act', 'choose', ofKind(calls.choose, kind, { choice: 'some', mode: 'add', set: [{ key, isChosen }] }))
</script>

<template>
  <ItemsPanel
    v-if="open?.what === 'items' && openRow"
    :key="`${open.kind} ${open.group} ${open.when}`"
    :ticket="ticket.number"
    :open="open"
    :group-title="title"
    :row="openRow"
    :can-choose="canChoose"
    :showing-until="ticket.showingUntil"
    :stamp="stamp"
    @close="emit('close')"
    @open="(next, called) => emit('open', next, called)"
    @show="emit('show')"
    @choose="(key, isChosen) => chooseOne(open!.kind, key, isChosen)"
    @slice="(slice) => chooseSlice(open!.kind, slice)"
  />
  <GroupsPanel
    v-else-if="open?.what === 'groups' && openRow"
    :row="openRow"
    :ticket="ticket.number"
    :open="open"
    :can-choose="canChoose"
    :showing-until="ticket.showingUntil"
    :stamp="stamp"
    @close="emit('close')"
    @open="(next, called) => emit('open', next, called)"
    @show="emit('show')"
    @slice="(slice) => chooseSlice(open!.kind, slice)"
  />
  <JoiningsPanel
    v-else-if="open?.what === 'joinings'"
    :ticket="ticket.number"
    :kind="open.kind"
    :can-decide="canDecide"
    :can-undo="Boolean(ticket.areRolesFrozen && !ticket.run && !ticket.signedAt)"
    :showing-until="ticket.showingUntil"
    :stamp="stamp"
    :busy="busy"
    @close="emit('close')"
    @show="emit('show')"
    @act="(name, call) => emit('act', name, call)"
  />
  <OwnCountPanel
    v-else-if="open?.what === 'own' && openRow"
    :ticket="ticket"
    :row="openRow"
    :side="open.side"
    @close="emit('close')"
    @open="(next) => emit('open', next)"
  />
  <p v-else-if="ticket.isLook" class="text-soft">{{ lookBoard.panelLead }}</p>
  <StagePanel
    v-else-if="row"
    :ticket="ticket"
    :row="row"
    :stage="stage"
    :busy="busy"
    :zone="zone"
    :picked="picked"
    @act="(name, call) => emit('act', name, call)"
    @open="(filter, reason, kind) => emit('open', openedItems(kind ?? row!.kind, filter, { reason: reason ?? '' }))"
    @groups="(by) => emit('open', { what: 'groups', kind: row!.kind, side: 'old', by })"
    @joinings="(kind) => emit('open', { what: 'joinings', kind: kind ?? row!.kind })"
    @show="emit('show')"
    @carry="emit('carry')"
    @choose="emit('stage', 'choose')"
    @stage="(next) => emit('stage', next)"
    @kinds="emit('kinds')"
  />
</template>
