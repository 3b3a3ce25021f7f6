<script setup lang="ts">
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import SentenceBox from '../../../components/base/SentenceBox.vue'
import { number } from '../../../words/say.ts'
import { leftLine, runLine } from '../standing.ts'

/** What runs now: done and total, rate, time left, and what it waits for. */
const props = defineProps<{ ticket: TicketView; busy: string }>()
defineEmits<{ stop: [] }>()
const run = computed(() => props.ticket.run)
const share = computed(() => (run.value && run.value.total > 0 ? Math.min(1, run.value.done / run.value.total) : 0))
</script>

<template>
  <div v-if="run" class="mb-4 space-y-2" data-testid="run">
    <SentenceBox v-if="run.state === 'paused'" tone="note">{{ runLine(run, ticket) }} It goes on by itself.</SentenceBox>
    <template v-else>
      <p class="font-semibold text-slate first-letter:uppercase" role="status">{{ runLine(run, ticket) }}</p>
      <div class="h-2 border border-slate/50 bg-sheet" role="progressbar" :aria-valuenow="Math.round(share * 100)" aria-valuemin="0" aria-valuemax="100" aria-label="How far it is">
        <div class="h-full bg-slate" :style="{ width: `${share * 100}%` }" />
      </div>
      <p class="text-xs text-soft"><span v-if="run.perSecond !== null">{{ number(Math.round(run.perSecond)) }} a second</span><span v-if="leftLine(run)">, {{ leftLine(run) }}</span></p>
    </template>
    <AppButton look="quiet" :busy="busy === 'stop'" @click="$emit('stop')">Stop here; what is over stays over</AppButton>
  </div>
</template>
