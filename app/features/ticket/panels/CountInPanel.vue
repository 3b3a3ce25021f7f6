<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import DataTable from '../../../components/base/DataTable.vue'
import AppButton from '../../../components/base/AppButton.vue'
import LinkButton from '../../../components/base/LinkButton.vue'
import { number } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import NotTaken from '../NotTaken.vue'
import RunBox from './RunBox.vue'
import { common } from '../../../words/common.ts'
import { countInPanel } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(countInPanel)

const props = defineProps<{ ticket: TicketView; busy: string }>()
defineEmits<{ act: [name: string, call: TicketCall]; choose: []; show: [] }>()
const readings = computed(() => props.ticket.readings.filter((r) => r.purpose === 'first'))
/** A line a kind; both phones beside each other. */
const lines = computed(() =>
  props.ticket.kinds.map((kind) => ({
    kind,
    old: readings.value.find((r) => r.kind === kind && r.side === 'old'),
    new: readings.value.find((r) => r.kind === kind && r.side === 'new'),
  })),
)
const sides = ['old', 'new'] as const
/** Added since: what is carried already is not counted in again. */
const added = computed(() => (props.ticket.areRolesFrozen ? lines.value.filter((line) => !line.old || !line.new) : []))
const say = computed(() => {
  if (added.value.length > 0) return said.countIn(added.value.map(({ kind }) => words.many[kind]).join(', '))
  return readings.value.length > 0 ? said.countBothPhones : said.countInAnd(props.ticket.old.model, props.ticket.new.model)
})
const isReady = computed(() => props.ticket.old.isReady && props.ticket.new.isReady)
</script>

<template>
  <RunBox
    :ticket="ticket"
    :busy="busy"
    @stop="$emit('act', 'stop', ofTicket(calls.stop))"
    @pause="$emit('act', 'pause', ofTicket(calls.pause))"
    @resume="$emit('act', 'resume', ofTicket(calls.resumeRun))"
  />
  <DataTable
    v-if="readings.length > 0"
    class="mb-3"
    :label="said.readings"
    :rows="lines"
    :key-of="(line) => line.kind"
    :row-of="(line) => ({ 'data-kind': line.kind })"
    :columns="[
      { key: 'kind', head: common.kind, names: true },
      { key: 'old', head: said.oldRead, isRight: true },
      { key: 'new', head: said.newRead, isRight: true },
    ]"
  >
    <template #kind="{ row: line }">{{ words.kinds[line.kind] }}</template>
    <template v-for="side in sides" :key="side" #[side]="{ row: line }">
      <span :data-side="side" :data-state="line[side]?.state">
        <template v-if="line[side]"
          ><strong>{{ number(line[side]!.got) }}</strong
          ><span class="block text-xs text-soft">{{
            line[side]!.state === 'open'
              ? said.of(line[side]!.counted === null ? '…' : number(line[side]!.counted!))
              : line[side]!.unreadable > 0
                ? said.unreadable(number(line[side]!.unreadable))
                : said.whole
          }}</span></template
        >
        <span v-else class="text-soft">{{ said.waits }}</span>
      </span>
    </template>
  </DataTable>
  <NotTaken v-if="ticket.old.place === 'file' && !ticket.erasedAt" :ticket="ticket" @show="$emit('show')" />
  <p v-if="ticket.run && ticket.forecasts.length > 0 && !ticket.straight" class="mb-3 text-xs">
    <LinkButton @click="$emit('choose')">{{
      said.chooseAlready(ticket.forecasts.map(({ kind }) => words.many[kind]).join(', '))
    }}</LinkButton>
  </p>
  <template v-if="!ticket.run">
    <p v-if="!ticket.areRolesFrozen || added.length > 0" class="mb-3 text-soft">
      {{ said.bothPhonesAreCounted }}
    </p>
    <AppButton
      v-if="!ticket.areRolesFrozen || added.length > 0"
      :look="readings.length > 0 && added.length === 0 ? 'quiet' : 'accent'"
      :disabled="!isReady"
      :busy="busy === 'count-in'"
      @click="$emit('act', 'count-in', ofTicket(calls.countIn))"
    >
      {{ say }}
    </AppButton>
    <AppButton
      v-if="!ticket.straight && !ticket.areRolesFrozen && readings.length === 0"
      class="mt-2 w-full"
      :disabled="!isReady"
      :busy="busy === 'straight'"
      @click="$emit('act', 'straight', ofTicket(calls.straight, { on: true }))"
      >{{ common.straightThroughCountCarry }}</AppButton
    >
    <p v-if="!isReady" class="mt-2 text-xs text-ochre">{{ said.phoneIsNotReady }}</p>
  </template>
</template>
