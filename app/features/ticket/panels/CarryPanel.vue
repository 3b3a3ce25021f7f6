<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { stillToCarry } from '#core/book/index.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { itemsOf } from '../../../words/say.ts'
import { mayChoose } from '../standing.ts'
import RunBox from './RunBox.vue'

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
    @stop="$emit('act', 'stop', ofTicket(routes.stop))"
    @pause="$emit('act', 'pause', ofTicket(routes.pause))"
    @resume="$emit('act', 'resume', ofTicket(routes.resumeRun))"
  />
  <p v-if="ticket.run?.type === 'carry'" class="text-soft">
    It goes on when this page is closed. When all has come over, the new phone is counted afresh by itself.
  </p>
  <template v-else-if="!ticket.run && waiting > 0 && ticket.areRolesFrozen">
    <p class="mb-3 text-soft">{{ itemsOf(pending) }} still {{ waiting === 1 ? 'waits' : 'wait' }}. Nothing that came over is sent again.</p>
    <AppButton look="accent" class="w-full" :busy="busy === 'carry'" @click="$emit('carry')"
      >Carry {{ itemsOf(pending) }} to the {{ ticket.new.model }}</AppButton
    >
    <AppButton v-if="mayChoose(ticket)" look="quiet" class="mt-2 w-full" @click="$emit('choose')">Choose again what is carried</AppButton>
  </template>
  <p v-else-if="!ticket.run" class="text-soft">
    {{ over > 0 ? 'Over. What counts is the check: see Check off.' : 'Nothing runs. First choose what is carried.' }}
  </p>
</template>
