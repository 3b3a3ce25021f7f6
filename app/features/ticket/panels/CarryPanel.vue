<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { stillToCarry } from '#core/book/index.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { itemsOf } from '../../../words/say.ts'
import { mayChoose } from '../../../words/standing.ts'
import RunBox from './RunBox.vue'
import { carryPanel } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(carryPanel)

const props = defineProps<{ ticket: TicketView; busy: string }>()
defineEmits<{ act: [name: string, call: TicketCall]; carry: []; choose: [] }>()
const pending = computed(() => stillToCarry(props.ticket.ledger))
const waiting = computed(() => pending.value.reduce((sum, { n }) => sum + n, 0))
const over = computed(() => props.ticket.ledger.reduce((sum, { fates }) => sum + fates.carried + fates.changed, 0))
</script>

<template>
  <RunBox
    :ticket="ticket"
    :busy="busy"
    @stop="$emit('act', 'stop', ofTicket(calls.stop))"
    @pause="$emit('act', 'pause', ofTicket(calls.pause))"
    @resume="$emit('act', 'resume', ofTicket(calls.resumeRun))"
  />
  <p v-if="ticket.run?.type === 'carry'" class="text-soft">
    {{ said.goesOn }}
  </p>
  <template v-else-if="!ticket.run && waiting > 0 && ticket.areRolesFrozen">
    <p class="mb-3 text-soft">{{ said.stillWaits(itemsOf(pending), waiting) }}</p>
    <AppButton look="accent" class="w-full" :busy="busy === 'carry'" @click="$emit('carry')">{{
      said.carryTo(itemsOf(pending), ticket.new.model)
    }}</AppButton>
    <AppButton v-if="mayChoose(ticket)" look="quiet" class="mt-2 w-full" @click="$emit('choose')">{{ said.chooseAgain }}</AppButton>
  </template>
  <p v-else-if="!ticket.run" class="text-soft">
    {{ over > 0 ? said.over : said.nothingRuns }}
  </p>
</template>
