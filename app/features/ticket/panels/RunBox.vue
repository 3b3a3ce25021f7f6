<script setup lang="ts">
import { computed } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import SentenceBox from '../../../components/base/SentenceBox.vue'
import { bytes, number, guess, range, together } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import { leftLine, runLine } from '../../../words/standing.ts'
import { runBox } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(runBox)

/** What runs now: done and total, rate, time left, and what it waits for. */
const props = defineProps<{ ticket: TicketView; busy: string }>()
defineEmits<{ stop: []; pause: []; resume: [] }>()
const run = computed(() => props.ticket.run)
const share = computed(() => (run.value && run.value.total > 0 ? Math.min(1, run.value.done / run.value.total) : 0))
const amount = (n: number, unit: 'items' | 'bytes') => (unit === 'bytes' ? bytes(n) : number(n))
const kindsOf = (kinds: readonly string[]) =>
  together(kinds.map((kind, i) => (i === 0 ? words.kinds[kind]! : words.kinds[kind]!.toLowerCase())))
</script>

<template>
  <div v-if="run" class="mb-4 space-y-2" data-testid="run">
    <SentenceBox v-if="run.state === 'paused' || run.state === 'held'" tone="note"
      >{{ runLine(run, ticket) }}<template v-if="run.state !== 'held'">{{ ' ' }}{{ said.goesOn }}</template></SentenceBox
    >
    <template v-else>
      <p class="font-semibold text-slate first-letter:uppercase">{{ runLine(run, ticket) }}</p>
      <p v-if="run.state === 'waiting'" class="text-xs text-soft" data-testid="waits-for-worker">{{ said.waitsForWorker }}</p>
      <div
        v-else
        class="h-2 border border-slate/50 bg-sheet"
        role="progressbar"
        :aria-valuenow="Math.round(share * 100)"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-label="said.howFarItIs"
      >
        <div class="h-full bg-slate" :style="{ width: `${share * 100}%` }" />
      </div>
      <p class="text-xs text-soft">
        <span v-if="run.perSecond !== null && run.perSecond >= 1">{{
          said.perSecond(run.unit === 'bytes' ? bytes(Math.round(run.perSecond)) : number(Math.round(run.perSecond)))
        }}</span><span v-if="leftLine(run)"
          ><template v-if="run.perSecond !== null && run.perSecond >= 1">, </template>{{ leftLine(run) }}</span
        >
      </p>
    </template>
    <ol v-if="ticket.stretches.length > 1" class="border border-rule bg-sheet" :aria-label="said.stretchesOfLine" data-testid="stretches">
      <li
        v-for="stretch in ticket.stretches"
        :key="stretch.code"
        class="border-b border-rule px-2.5 py-1.5 last:border-0"
        :data-stretch="stretch.code"
        :data-state="stretch.state"
      >
        <span class="flex justify-between gap-2"
          ><strong :class="stretch.state === 'over' ? 'text-verdigris' : stretch.state === 'running' ? 'text-slate' : 'text-soft'">{{
            kindsOf(stretch.kinds)
          }}</strong
          ><span class="shrink-0 text-xs text-soft">{{
            stretch.state === 'over'
              ? said.over
              : stretch.state === 'running'
                ? run.state === 'running'
                  ? said.running
                  : said.paused
                : said.afterThat
          }}</span></span
        >
        <span class="block text-xs text-soft"
          >{{ said.of(amount(stretch.done, stretch.unit), amount(stretch.total, stretch.unit))
          }}<template v-if="stretch.leftHighS !== null && stretch.state !== 'over' && stretch.total > stretch.done"
            >, {{ (stretch.state === 'waiting' ? guess : range)(stretch.leftLowS ?? 0, stretch.leftHighS)
            }}{{ stretch.state === 'waiting' ? '' : said.left }}</template
          ></span
        >
      </li>
    </ol>
    <div class="grid grid-cols-1 gap-1.5">
      <AppButton v-if="run.state === 'held'" look="accent" :busy="busy === 'resume'" @click="$emit('resume')">{{ said.resume }}</AppButton>
      <AppButton v-else :busy="busy === 'pause'" @click="$emit('pause')">{{ said.pause }}</AppButton>
    </div>
    <AppButton look="quiet" class="w-full" :busy="busy === 'stop'" @click="$emit('stop')">{{ said.stopHere }}</AppButton>
  </div>
</template>
