<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofKind, ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed, ref } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { stillToCarry } from '#core/book/index.ts'
import AppButton from '../../../components/base/AppButton.vue'
import LinkButton from '../../../components/base/LinkButton.vue'
import { clock, items, itemsOf, people, shortAndOver } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import { differenceOf } from '../../../words/standing.ts'
import TakeHome from '../../take-home/TakeHome.vue'
import FilesOut from '../FilesOut.vue'
import DifferenceList from './DifferenceList.vue'
import LeftBehindBox from './LeftBehindBox.vue'
import RunBox from './RunBox.vue'
import { common } from '../../../words/common.ts'
import { checkPanel } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(checkPanel)

/** The account of the kind, what differs and the ways on. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; busy: string; zone: string }>()
const emit = defineEmits<{
  act: [name: string, call: TicketCall]
  open: [filter: EntryFilter, reason?: string, kind?: string]
  joinings: []
  show: []
  carry: []
}>()
const pending = computed(() => stillToCarry(props.ticket.ledger))
const by = ref('')
const lastCheck = computed(() => (props.ticket.lastRun?.type === 'check-off' ? props.ticket.lastRun.endedAt : null))
const onBoth = computed(() => props.ticket.forecasts.find((f) => f.kind === props.row.kind)?.onBoth)
/** Refused, not given or let go: tried again by hand. */
const onceMore = computed(() => props.row.fates.refused + props.row.fates.unreadable + props.row.fates.pushedOut)
const canOpen = computed(() => props.ticket.erasedAt === null)
function accept() {
  emit('act', 'accept', ofKind(calls.accept, props.row.kind, { by: by.value }))
}
</script>

<template>
  <RunBox
    :ticket="ticket"
    :busy="busy"
    @stop="$emit('act', 'stop', ofTicket(calls.stop))"
    @pause="$emit('act', 'pause', ofTicket(calls.pause))"
    @resume="$emit('act', 'resume', ofTicket(calls.resumeRun))"
  />
  <p v-if="row.new.last === null && !ticket.run" class="mb-3 text-soft">
    {{ said.lead }}
  </p>
  <p v-else-if="lastCheck && !ticket.run" class="mb-2 text-xs text-soft">
    {{ said.readAfresh(clock(lastCheck, zone)) }}
  </p>
  <DifferenceList v-if="canOpen" :ticket="ticket" only="differences" @open="(f, r, k) => $emit('open', f, r, k)" />
  <p v-if="onBoth && onBoth.all > 0 && canOpen" class="mb-2 text-xs">
    <LinkButton @click="$emit('joinings')">{{ said.joined(people(onBoth.joined), people(onBoth.all)) }}</LinkButton>
  </p>
  <TakeHome
    v-if="ticket.new.place === 'folder' && !ticket.run"
    :ticket="ticket"
    :busy="busy"
    :zone="zone"
    @act="(n, call) => $emit('act', n, call)"
  />
  <FilesOut v-if="!ticket.run && ticket.new.place !== 'folder'" :ticket="ticket" @show="$emit('show')" />
  <div v-if="!ticket.run && canOpen" class="space-y-2">
    <AppButton
      v-if="row.fates.lost > 0"
      look="accent"
      class="w-full"
      :busy="busy === 'again'"
      @click="$emit('act', 'again', ofKind(calls.again, row.kind, { fates: ['lost'] }))"
      >{{ said.putBack(items(row.kind, row.fates.lost)) }}</AppButton
    >
    <AppButton
      v-else-if="pending.some(({ n }) => n > 0) && ticket.areRolesFrozen"
      look="accent"
      class="w-full"
      :busy="busy === 'carry'"
      @click="$emit('carry')"
      >{{ said.carryTo(itemsOf(pending), ticket.new.model) }}</AppButton
    >
    <AppButton
      v-if="ticket.areRolesFrozen && !ticket.signedAt"
      :look="row.new.last === null ? 'accent' : 'quiet'"
      class="w-full"
      :busy="busy === 'check'"
      @click="$emit('act', 'check', ofTicket(calls.checkOff))"
      >{{ row.new.last === null ? said.compare : common.countBothPhonesAgain }}</AppButton
    >
    <LeftBehindBox
      v-if="!ticket.signedAt"
      :ticket="ticket"
      :row="row"
      :busy="busy"
      @act="(n, call) => $emit('act', n, call)"
      @open="$emit('open', 'leftBehind')"
    />
    <AppButton
      v-if="onceMore > 0 && !ticket.signedAt"
      look="quiet"
      class="w-full"
      :busy="busy === 'once-more'"
      @click="$emit('act', 'once-more', ofKind(calls.again, row.kind, { fates: ['refused', 'unreadable', 'pushedOut'] }))"
      >{{ said.onceMore(items(row.kind, onceMore)) }}</AppButton
    >
    <form v-if="row.verdict === 'differs'" class="border border-rule bg-sheet p-3" @submit.prevent="accept">
      <label class="block"
        ><span class="mb-1 block">{{ said.customerAcceptsByName(differenceOf(row)) }}</span
        ><input v-model="by" class="field" autocomplete="off" required maxlength="120"
      /></label>
      <AppButton look="danger" type="submit" class="mt-2 w-full" :disabled="!by.trim()" :busy="busy === 'accept'">{{
        said.customerAccepts(differenceOf(row))
      }}</AppButton>
    </form>
    <p v-for="a in ticket.accepted" :key="a.kind" class="text-soft">
      {{ said.acceptedAt(words.kinds[a.kind]!, a.by, shortAndOver(a) || said.theCount, clock(a.at, zone)) }}
      <LinkButton v-if="!ticket.signedAt" @click="$emit('act', 'accept-back', ofKind(calls.takeBackAccept, a.kind))">{{
        said.takeItBack
      }}</LinkButton>
    </p>
  </div>
  <DifferenceList v-if="canOpen" class="mt-4" :ticket="ticket" only="notes" @open="(f, r, k) => $emit('open', f, r, k)" />
</template>
