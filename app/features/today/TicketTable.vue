<script setup lang="ts">
import { ref } from 'vue'
import { useEventListener } from '@vueuse/core'
import { useRouter } from 'vue-router'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import StateMark from '../../components/base/StateMark.vue'
import { promise, untilPromise } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import CallOffDialog from '../ticket/CallOffDialog.vue'
import { useCallOff } from '../ticket/use-call-off.ts'
import RowMenu from './RowMenu.vue'
import { leftLine, standingOf } from '../../words/standing.ts'
import { common } from '../../words/common.ts'
import { ticketTable as said } from '../../words/today.ts'
import OldNew from '../../components/base/OldNew.vue'

/** Columns a narrow screen leaves out. */
const wideOnly = new Set<string>(['pair', 'stage', 'left'])

const emit = defineEmits<{ refused: [sentence: string] }>()
const { asks, callOff } = useCallOff((sentence) => emit('refused', sentence))
const props = defineProps<{ tickets: readonly TicketSummary[]; zone: string; now: number }>()
const router = useRouter()
const rows = ref<HTMLElement[]>([])

useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)) return
  const step = { j: 1, ArrowDown: 1, k: -1, ArrowUp: -1 }[event.key]
  if (!step || props.tickets.length === 0) return
  event.preventDefault()
  const at = rows.value.findIndex((row) => row === document.activeElement)
  rows.value[Math.max(0, Math.min(props.tickets.length - 1, at + step))]?.focus()
})
const open = (ticket: TicketSummary) => router.push(`/tickets/${ticket.number}`)
const isLate = (ticket: TicketSummary) => !ticket.handedBackAt && Date.parse(ticket.promisedAt) < props.now
</script>

<template>
  <table class="w-full border border-rule bg-sheet text-left">
    <thead class="border-b border-ink text-xs text-soft">
      <tr>
        <th
          v-for="(head, key) in said.heads"
          :key="key"
          scope="col"
          class="px-3 py-1.5 font-normal max-md:px-2"
          :class="{ 'max-md:hidden': wideOnly.has(key) }"
        >
          {{ head }}
        </th>
        <th scope="col" class="px-3 py-1.5 text-right font-normal">{{ said.promised }}</th>
        <th scope="col">
          <span class="sr-only">{{ common.more }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="ticket in tickets"
        :key="ticket.number"
        ref="rows"
        tabindex="0"
        class="cursor-pointer border-b border-rule last:border-0 hover:bg-row focus:bg-row"
        @click="open(ticket)"
        @keydown.enter="open(ticket)"
      >
        <th scope="row" class="px-3 py-2.5 max-md:px-2 font-head font-semibold">
          <NuxtLink :to="`/tickets/${ticket.number}`" tabindex="-1">{{ ticket.number }}</NuxtLink>
        </th>
        <td class="px-3 py-2.5 max-md:px-2">{{ ticket.customer ?? '—' }}</td>
        <td class="px-3 py-2.5 max-md:px-2 text-soft max-md:hidden"><OldNew :old="ticket.old.model" :now="ticket.new.model" /></td>
        <td class="px-3 py-2.5 max-md:px-2 font-medium max-md:hidden">{{ words.stages[ticket.stage] }}</td>
        <td class="px-3 py-2.5 max-md:px-2">
          <StateMark :tone="standingOf(ticket).tone" class="max-md:whitespace-normal">{{ standingOf(ticket).short }}</StateMark>
          <span
            v-if="ticket.lastNote"
            class="block max-w-64 truncate text-xs text-soft max-md:wrap-anywhere max-md:whitespace-normal"
            :title="ticket.lastNote"
            >{{ said.note(ticket.lastNote) }}</span
          >
        </td>
        <td class="px-3 py-2.5 max-md:px-2 text-soft max-md:hidden">{{ ticket.run ? leftLine(ticket.run) : '' }}</td>
        <td class="px-3 py-2.5 max-md:px-2 text-right">
          <span v-if="ticket.handedBackAt" class="text-soft">{{ said.handedBack(promise(ticket.handedBackAt, zone, now)) }}</span>
          <template v-else>
            <strong>{{ promise(ticket.promisedAt, zone, now) }}</strong>
            <span class="ml-2 text-xs" :class="isLate(ticket) ? 'font-semibold text-madder' : 'text-soft'">{{
              untilPromise(ticket.promisedAt, now)
            }}</span>
          </template>
        </td>
        <td class="pr-2 text-right" @click.stop @keydown.enter.stop>
          <RowMenu :ticket="ticket" @call-off="asks = ticket" />
        </td>
      </tr>
    </tbody>
  </table>
  <CallOffDialog v-if="asks" :open="true" :ticket="asks" @close="asks = null" @send="callOff" />
</template>
