<script setup lang="ts">
import { computed, ref } from 'vue'
import { bytes } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import type { FaultPoint, FingerAct, HandBody, HandPhone } from './hand.ts'
import FaultForm from './FaultForm.vue'
import PhoneScreen from './PhoneScreen.vue'
import StateForm from './StateForm.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { common } from '../../words/common.ts'
import { cableWords, fingerWords, practicePhone as said, switchWords, trustWords } from '../../words/practice.ts'

/** One practice phone: what its screen shows now, the answers it waits for, what fingers can do, its state, its faults. */
const props = defineProps<{
  phone: HandPhone
  points: readonly FaultPoint[]
  acts: readonly FingerAct[]
  freePorts: readonly number[]
  /** Name of its bench, where there are several. */
  bench: string
}>()
const emit = defineEmits<{ hand: [act: string, body?: HandBody, isTaken?: boolean] }>()
const finger = ref('')
const port = ref<number | ''>('')
const fingers = computed(() => props.acts.filter(({ on }) => !on || on.includes(props.phone.platform)))
const on = computed(() =>
  Object.entries(props.phone.switches)
    .filter(([, isOn]) => isOn)
    .map(([name]) => switchWords[name] ?? name),
)
function press() {
  if (finger.value) emit('hand', finger.value)
}
const answer = 'border-ochre! bg-ochre-pale! text-ochre!'
</script>

<template>
  <article class="border border-t-[3px] border-rule border-t-ink bg-sheet p-4" :data-phone="phone.serial">
    <header class="mb-3 flex items-baseline justify-between">
      <h2 class="text-base">
        {{ phone.model }}
        <span class="font-body text-xs font-normal text-soft">{{ words.platforms[phone.platform] }} {{ phone.version }}</span>
      </h2>
      <span class="font-head" :class="phone.port ? 'font-semibold' : 'text-soft'">{{
        phone.port ? said.port(phone.port) : said.notPluggedIn
      }}</span>
    </header>
    <div class="mb-3 flex gap-4">
      <PhoneScreen :phone="phone" />
      <dl class="grid flex-1 grid-cols-[auto_1fr] content-start gap-x-2 gap-y-0.5 text-xs">
        <dt class="text-soft">{{ said.serial }}</dt>
        <dd>{{ phone.serial }}</dd>
        <template v-if="bench">
          <dt class="text-soft">{{ common.bench }}</dt>
          <dd>{{ bench }}</dd>
        </template>
        <dt class="text-soft">{{ common.state }}</dt>
        <dd>
          {{
            phone.setup === 'set-up'
              ? phone.isOn
                ? said.setUp
                : said.off
              : phone.setup === 'in-box'
                ? said.inItsBox
                : said.atItsWelcomeScreen
          }}
        </dd>
        <dt class="text-soft">{{ said.computer }}</dt>
        <dd>{{ trustWords[phone.trust] }}</dd>
        <dt class="text-soft">{{ common.cable }}</dt>
        <dd>{{ cableWords[phone.cable] }}{{ phone.isAsleep ? said.portAsleep : '' }}{{ phone.fallsBack ? said.fallsBack : '' }}</dd>
        <dt class="text-soft">{{ common.free }}</dt>
        <dd>{{ bytes(phone.freeBytes) }}</dd>
        <dt class="text-soft">{{ said.allows }}</dt>
        <dd>{{ phone.allows.map((kind) => words.many[kind] ?? kind).join(', ') || said.nothing }}</dd>
        <dt class="text-soft">{{ common.on }}</dt>
        <dd class="line-clamp-3">{{ on.join(', ') || '—' }}</dd>
      </dl>
    </div>
    <div v-if="phone.question" class="mb-2 flex flex-wrap gap-1.5" role="group" :aria-label="said.answersOf(phone.model)">
      <SmallButton :class="answer" @click="emit('hand', phone.question)">{{
        phone.question === 'trust'
          ? said.answerYes
          : phone.question === 'unlock'
            ? said.unlock
            : (fingerWords[phone.question] ?? phone.question)
      }}</SmallButton>
      <template v-if="phone.question === 'trust'">
        <SmallButton :class="answer" @click="emit('hand', 'trust', { once: true })">{{ said.answerOnlyOnce }}</SmallButton>
        <SmallButton :class="answer" @click="emit('hand', 'refuse')">{{ said.answerNo }}</SmallButton>
      </template>
    </div>
    <div class="flex flex-wrap items-center gap-1.5" role="group" :aria-label="said.handsOn(phone.model)">
      <template v-if="phone.port">
        <SmallButton @click="emit('hand', 'pull')">{{ said.pullCable }}</SmallButton>
        <SmallButton @click="emit('hand', 'replug')">{{ said.pullAndPlugIn }}</SmallButton>
      </template>
      <template v-else>
        <label
          ><span class="sr-only">{{ common.port }}</span
          ><select v-model="port" class="border border-rule bg-sheet px-1.5 py-1 text-xs">
            <option value="">{{ said.firstFreePort }}</option>
            <option v-for="n in freePorts" :key="n" :value="n">{{ said.port(n) }}</option>
          </select></label
        >
        <SmallButton :disabled="freePorts.length === 0" @click="emit('hand', 'plug', port === '' ? {} : { port })">{{
          said.plugIn
        }}</SmallButton>
      </template>
      <SmallButton v-if="!phone.isLocked" @click="emit('hand', 'lock')">{{ said.lock }}</SmallButton>
      <SmallButton v-else-if="!phone.question" @click="emit('hand', 'unlock')">{{ said.unlock }}</SmallButton>
      <SmallButton @click="emit('hand', 'fill', { seed: 7, count: 1 })">{{ said.contactComesIn }}</SmallButton>
    </div>
    <form class="mt-2 flex items-end gap-1.5 text-xs" @submit.prevent="press">
      <label class="flex-1"
        ><span class="mb-0.5 block text-soft">{{ said.fingersOnItsScreen }}</span>
        <select v-model="finger" class="field text-xs">
          <option value="">—</option>
          <option v-for="act in fingers" :key="act.name" :value="act.name">{{ fingerWords[act.name] ?? act.name }}</option>
        </select>
      </label>
      <SmallButton type="submit" :disabled="!finger">{{ said.press }}</SmallButton>
    </form>
    <StateForm :phone="phone" @hand="(act, body) => emit('hand', act, body)" />
    <FaultForm :phone="phone" :points="points" @hand="(act, body, isTaken) => emit('hand', act, body, isTaken)" />
  </article>
</template>
