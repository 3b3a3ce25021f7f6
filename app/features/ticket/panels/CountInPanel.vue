<script setup lang="ts">
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { number } from '../../../words/say.ts'
import RunBox from './RunBox.vue'

const props = defineProps<{ ticket: TicketView; busy: string }>()
defineEmits<{ act: [name: string, path: string] }>()
const readings = computed(() => props.ticket.readings.filter((r) => r.purpose === 'first'))
const isReady = computed(() => props.ticket.old.isReady && props.ticket.new.isReady)
</script>

<template>
  <RunBox :ticket="ticket" :busy="busy" @stop="$emit('act', 'stop', 'stop')" />
  <table v-if="readings.length > 0" class="mb-3 w-full border border-rule bg-sheet" aria-label="Readings">
    <thead class="text-xs text-soft"><tr><th class="px-2.5 py-1 text-left font-normal" scope="col">Phone</th><th class="px-2 text-right font-normal" scope="col">Read</th><th class="px-2 text-right font-normal" scope="col">It says</th><th class="px-2.5 text-right font-normal" scope="col">Unreadable</th></tr></thead>
    <tbody>
      <tr v-for="r in readings" :key="r.side" class="border-t border-rule" :data-side="r.side" :data-state="r.state">
        <th scope="row" class="px-2.5 py-1.5 text-left font-head">{{ r.side === 'old' ? 'OLD' : 'NEW' }}</th>
        <td class="px-2 text-right font-bold">{{ number(r.got) }}</td>
        <td class="px-2 text-right">{{ r.counted === null ? '—' : number(r.counted) }}</td>
        <td class="px-2.5 text-right">{{ r.unreadable > 0 ? number(r.unreadable) : '—' }}</td>
      </tr>
    </tbody>
  </table>
  <template v-if="!ticket.run">
    <p class="mb-3 text-soft">Both phones are counted and read, the new one too: what it holds already is its first count.</p>
    <AppButton v-if="!ticket.areRolesFrozen" :look="readings.length > 0 ? 'quiet' : 'accent'" :disabled="!isReady" :busy="busy === 'count-in'" @click="$emit('act', 'count-in', 'count-in')">
      {{ readings.length > 0 ? 'Count both phones in again' : `Count in the ${ticket.old.model} and the ${ticket.new.model}` }}
    </AppButton>
    <p v-if="!isReady" class="mt-2 text-xs text-ochre">A phone is not ready: see Make ready.</p>
  </template>
</template>
