<script setup lang="ts">
import type { TicketView } from '#contracts/http/ticket.ts'
import { words } from '../../words/words.ts'
import ReadySide from './ReadySide.vue'
import { readyBoard as said } from '../../words/ready.ts'

/** Both phones side by side, with what each needs for the kinds that cross. */
defineProps<{ ticket: TicketView; picked: { side: 'old' | 'new'; code: string } | null; now: number }>()
defineEmits<{ pick: [side: 'old' | 'new', code: string] }>()
</script>

<template>
  <div>
    <h2 class="mb-2 text-[0.95rem]">
      {{ said.makingReady }}
      <span class="font-body text-xs font-normal text-soft">{{ said.lead }}</span>
    </h2>
    <div class="grid items-start gap-4 md:grid-cols-2">
      <ReadySide
        v-for="side in ['old', 'new'] as const"
        :key="side"
        :phone="ticket[side]"
        :ready="ticket.ready[side]"
        :picked="picked?.side === side ? picked.code : null"
        :now="now"
        @pick="(code) => $emit('pick', side, code)"
      />
    </div>
    <p v-if="ticket.byHand.length > 0" class="mt-3 text-soft">
      {{ said.byHand(ticket.byHand.map((kind) => words.many[kind]).join(', ')) }}
    </p>
  </div>
</template>
