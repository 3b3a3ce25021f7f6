<script setup lang="ts">
import { computed, ref } from 'vue'
import { bytes } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import type { FaultPoint, FingerAct, HandPhone } from './hand.ts'
import FaultForm from './FaultForm.vue'
import PhoneScreen from './PhoneScreen.vue'
import StateForm from './StateForm.vue'
import SmallButton from '../../components/base/SmallButton.vue'

/** One practice phone: what its screen shows now, the answers it waits for, what fingers can do, its state, its faults. */
const props = defineProps<{ phone: HandPhone; points: readonly FaultPoint[]; acts: readonly FingerAct[]; freePorts: readonly number[] }>()
const emit = defineEmits<{ hand: [act: string, body?: object, isTaken?: boolean] }>()
const finger = ref('')
const port = ref<number | ''>('')
const fingers = computed(() => props.acts.filter(({ on }) => !on || on.includes(props.phone.platform)))
const on = computed(() =>
  Object.entries(props.phone.switches)
    .filter(([, isOn]) => isOn)
    .map(([name]) => name.replaceAll('-', ' ')),
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
        phone.port ? `port ${phone.port}` : 'not plugged in'
      }}</span>
    </header>
    <div class="mb-3 flex gap-4">
      <PhoneScreen :phone="phone" />
      <dl class="grid flex-1 grid-cols-[auto_1fr] content-start gap-x-2 gap-y-0.5 text-xs">
        <dt class="text-soft">Serial</dt>
        <dd>{{ phone.serial }}</dd>
        <dt class="text-soft">State</dt>
        <dd>
          {{
            phone.setup === 'set-up' ? (phone.isOn ? 'set up' : 'off') : phone.setup === 'in-box' ? 'in its box' : 'at its welcome screen'
          }}
        </dd>
        <dt class="text-soft">Computer</dt>
        <dd>{{ phone.trust }}</dd>
        <dt class="text-soft">Cable</dt>
        <dd>{{ phone.cable }}{{ phone.isAsleep ? ', port asleep' : '' }}{{ phone.fallsBack ? ', falls back' : '' }}</dd>
        <dt class="text-soft">Free</dt>
        <dd>{{ bytes(phone.freeBytes) }}</dd>
        <dt class="text-soft">Allows</dt>
        <dd>{{ phone.allows.join(', ') || 'nothing' }}</dd>
        <dt class="text-soft">On</dt>
        <dd class="line-clamp-3">{{ on.join(', ') || '—' }}</dd>
      </dl>
    </div>
    <div v-if="phone.question" class="mb-2 flex flex-wrap gap-1.5" role="group" :aria-label="`Answers the ${phone.model} waits for`">
      <SmallButton :class="answer" @click="emit('hand', phone.question)">{{
        phone.question === 'trust' ? 'Answer “yes”' : phone.question === 'unlock' ? 'Unlock' : phone.question.replaceAll('-', ' ')
      }}</SmallButton>
      <template v-if="phone.question === 'trust'">
        <SmallButton :class="answer" @click="emit('hand', 'trust', { once: true })">Answer “only once”</SmallButton>
        <SmallButton :class="answer" @click="emit('hand', 'refuse')">Answer “no”</SmallButton>
      </template>
    </div>
    <div class="flex flex-wrap items-center gap-1.5" role="group" :aria-label="`Hands on the ${phone.model}`">
      <template v-if="phone.port">
        <SmallButton @click="emit('hand', 'pull')">Pull the cable</SmallButton>
        <SmallButton @click="emit('hand', 'replug')">Pull and plug in</SmallButton>
      </template>
      <template v-else>
        <label
          ><span class="sr-only">Port</span
          ><select v-model="port" class="border border-rule bg-sheet px-1.5 py-1 text-xs">
            <option value="">first free port</option>
            <option v-for="n in freePorts" :key="n" :value="n">port {{ n }}</option>
          </select></label
        >
        <SmallButton :disabled="freePorts.length === 0" @click="emit('hand', 'plug', port === '' ? {} : { port })">Plug in</SmallButton>
      </template>
      <SmallButton v-if="!phone.isLocked" @click="emit('hand', 'lock')">Lock</SmallButton>
      <SmallButton v-else-if="!phone.question" @click="emit('hand', 'unlock')">Unlock</SmallButton>
      <SmallButton @click="emit('hand', 'fill', { seed: 7, count: 1 })">A contact comes in</SmallButton>
    </div>
    <form class="mt-2 flex items-end gap-1.5 text-xs" @submit.prevent="press">
      <label class="flex-1"
        ><span class="mb-0.5 block text-soft">Fingers on its screen</span>
        <select v-model="finger" class="field text-xs">
          <option value="">—</option>
          <option v-for="act in fingers" :key="act.name" :value="act.name">{{ act.name.replaceAll('-', ' ') }}</option>
        </select>
      </label>
      <SmallButton type="submit" :disabled="!finger">Press</SmallButton>
    </form>
    <StateForm :phone="phone" @hand="(act, body) => emit('hand', act, body)" />
    <FaultForm :phone="phone" :points="points" @hand="(act, body, isTaken) => emit('hand', act, body, isTaken)" />
  </article>
</template>
