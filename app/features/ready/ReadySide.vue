<script setup lang="ts">
import { computed } from 'vue'
import { Check, CircleAlert, CircleDashed, Eye, MinusCircle } from '@lucide/vue'
import type { NeedView, PhoneReady } from '#contracts/http/ready.ts'
import type { PhoneOnTicket } from '#contracts/http/ticket.ts'
import { countOpenNeeds, isOpenNeed } from '#core/phones/needs.ts'
import { ago, openNeedsLine, touchLine } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { copyLine } from '../../words/lockers.ts'
import { homeLine } from '../../words/take-home.ts'
import StepList from './StepList.vue'
import { readySide as said } from '../../words/ready.ts'

/** One phone of the pair: where it is, what it needs, and why it may be unseen. The list ticks itself. */
const props = defineProps<{ phone: PhoneOnTicket; ready: PhoneReady; picked: string | null; now: number }>()
defineEmits<{ pick: [code: string] }>()
const icons = { met: Check, unmet: CircleAlert, later: CircleDashed, ask: Eye, ticked: Check, waived: MinusCircle }
const tone = (need: NeedView) =>
  ['met', 'ticked'].includes(need.state) ? 'text-verdigris' : need.state === 'waived' || need.state === 'later' ? 'text-soft' : 'text-ochre'
const shown = computed(() =>
  props.phone.serial && props.ready.sight !== 'absent' ? props.ready.needs : props.ready.needs.filter((need) => need.code === 'seen'),
)
/** “port 3 draws current”, “ports 2, 5 and 6 draw current” */
const drawing = computed(() => {
  const ports = props.ready.unseenPorts
  return ports.length === 1 ? said.portDrawsCurrent(ports[0]!) : said.portsDrawCurrent(ports.slice(0, -1).join(', '), ports.at(-1) ?? '')
})
const open = computed(() => countOpenNeeds(props.ready.needs))
</script>

<template>
  <section
    class="border border-t-[3px] border-rule border-t-ink bg-sheet p-3.5"
    :data-side="phone.side"
    :data-sight="ready.sight"
    :aria-label="words.sidePhones[phone.side]"
  >
    <header class="mb-2 flex flex-wrap items-baseline gap-x-2">
      <strong class="font-head text-xl">{{ words.sides[phone.side] }}</strong>
      <strong>{{ phone.model }}</strong>
      <span class="text-soft">{{ words.platforms[phone.platform] }} {{ phone.version }}</span>
      <span class="ml-auto font-head" :class="phone.port ? 'font-semibold' : 'text-soft'">{{
        phone.port ? said.port(phone.port) : said.noPort
      }}</span>
    </header>
    <p v-if="phone.place === 'file'" class="text-soft">{{ said.readFromFileNothing }}</p>
    <p v-else-if="phone.place === 'locker'" class="text-soft">{{ phone.copy?.asOf ? copyLine.readNow : copyLine.madeNow }}</p>
    <p v-else-if="phone.place === 'folder'" class="text-soft">{{ homeLine.nothingToReady }}</p>
    <template v-else>
      <p class="mb-2 text-xs" :class="ready.isReady ? 'text-verdigris' : 'text-soft'">
        <strong v-if="ready.isReady">{{ said.ready }}</strong>
        <template v-else-if="ready.asks"
          >{{ said.itAsks }} <strong class="text-ochre">{{ touchLine(ready.asks.question) }}</strong>,
          {{ ago(ready.asks.sinceMs, now) }}.</template
        >
        <template v-else
          >{{ words.sights[ready.sight] }}<template v-if="ready.unseenPorts.length > 0">: {{ drawing }}</template
          >. {{ openNeedsLine(open) }}.</template
        >
      </p>
      <p v-if="ready.hasWorkArea" class="mb-2 border-l-4 border-ochre bg-ochre-pale px-2 py-1 text-xs text-ochre">
        {{ said.workArea }}
      </p>
      <details
        v-if="ready.causes.length > 0 && !ready.isReady && !ready.asks && (ready.sight === 'unseen' || ready.sight === 'silent')"
        class="mb-2 border border-ochre/40 bg-ochre-pale p-2"
        :open="ready.sight === 'unseen'"
        data-testid="causes"
      >
        <summary class="cursor-pointer font-semibold text-ochre">
          {{ said.likeliestFirst(ready.sight === 'unseen') }}
        </summary>
        <ol class="mt-1.5 space-y-2">
          <li v-for="cause in ready.causes" :key="cause.code" :data-cause="cause.code">
            <p>
              <strong>{{ cause.title }}.</strong> <span class="text-soft">{{ cause.look }}</span>
            </p>
            <StepList :steps="cause.steps" />
          </li>
        </ol>
      </details>
      <ul class="divide-y divide-rule/60">
        <li v-for="need in shown" :key="need.code" :data-need="need.code" :data-state="need.state">
          <button
            type="button"
            class="flex w-full items-start gap-2 px-1 py-1 text-left hover:bg-row"
            :class="{ 'bg-row': picked === need.code }"
            :aria-pressed="picked === need.code"
            @click="$emit('pick', need.code)"
          >
            <component :is="icons[need.state]" :size="15" class="mt-0.5 shrink-0" :class="tone(need)" aria-hidden="true" />
            <span
              class="min-w-0 flex-1"
              :class="isOpenNeed(need) && need.state !== 'later' && need.weight === 'must' ? 'font-semibold' : 'text-soft'"
              >{{ isOpenNeed(need) ? need.title : need.met }}</span
            >
            <span class="shrink-0 text-xs" :class="tone(need)">{{
              need.weight === 'warn' && isOpenNeed(need) ? said.better : words.needStates[need.state]
            }}</span>
          </button>
        </li>
      </ul>
    </template>
  </section>
</template>
