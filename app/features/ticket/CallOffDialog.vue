<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { common } from '../../words/common.ts'
import { callOffDialog } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(callOffDialog)

/** Calls a ticket off, from wherever it is shown: what it leaves behind is said before. */
const props = defineProps<{ open: boolean; ticket: TicketSummary }>()
const emit = defineEmits<{ close: []; send: [body: { why: string; takeAway: boolean; typed: string }] }>()
const [why, typed, takeAway] = [ref(''), ref(''), ref(false)]
watch(
  () => props.open,
  () => {
    why.value = typed.value = ''
    takeAway.value = false
  },
)
/** What this ticket wrote on the new phone and stands there, as far as is known. */
const overThere = computed(() =>
  props.ticket.ledger.reduce((sum, { fates, new: now }) => sum + fates.carried + fates.changed + now.leftBehind, 0),
)
const canSend = computed(() => why.value.trim() !== '' && typed.value.trim().toUpperCase() === props.ticket.number)
</script>

<template>
  <AppDialog :open="open" :title="said.callOff(ticket.number)" @close="emit('close')">
    <p class="mb-3 text-soft">
      {{ said.nothingMoreIsCarried }}
      <template v-if="ticket.run">{{ said.whatRunsNow }}</template>
      <template v-if="overThere > 0">{{ ' ' }}{{ said.standThere(overThere, ticket.old.model, ticket.new.model) }}</template
      ><template v-else>{{ ' ' }}{{ said.nothingWasWritten(ticket.new.model) }}</template>
    </p>
    <form class="space-y-3" @submit.prevent="emit('send', { why, takeAway, typed })">
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.why }}</span
        ><textarea v-model="why" class="field" rows="2" maxlength="300" />
      </label>
      <label v-if="overThere > 0" class="flex items-start gap-2"
        ><input v-model="takeAway" type="checkbox" class="mt-1" /><span>{{ said.takeAwayFromPort(ticket.new.port ?? '—') }}</span></label
      >
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.type(ticket.number) }}</span
        ><input v-model="typed" class="field" autocomplete="off"
      /></label>
      <div class="flex gap-2">
        <AppButton type="submit" look="danger" :disabled="!canSend">{{ said.callTicketOff }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
