<script setup lang="ts">
import { computed, ref } from 'vue'
import { bytes, number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import type { FaultPoint, HandPhone } from './hand.ts'

/** One practice phone: what its screen shows now, what fingers can do to it, and its faults. */
const props = defineProps<{ phone: HandPhone; points: readonly FaultPoint[] }>()
const emit = defineEmits<{ hand: [act: string, body?: object, method?: string] }>()
const asks = computed(() => props.phone.port !== null && props.phone.trust === 'asked' && !props.phone.isLocked)
const fault = ref('')
const skip = ref(0)
function addFault() {
  const [point, effect] = fault.value.split(' ')
  if (point && effect) emit('hand', 'faults', { faults: [{ point, effect, skip: skip.value, times: 1 }] })
  fault.value = ''
}
const key = 'rounded-[3px] border border-ink bg-sheet px-2 py-1 text-xs font-semibold hover:bg-row'
</script>

<template>
  <article class="border border-t-[3px] border-rule border-t-ink bg-sheet p-4" :data-phone="phone.serial">
    <header class="mb-3 flex items-baseline justify-between">
      <h2 class="text-base">{{ phone.model }} <span class="font-body text-xs font-normal text-soft">{{ words.platforms[phone.platform] }} {{ phone.version }}</span></h2>
      <span class="font-head text-soft">{{ phone.port ? `port ${phone.port}` : 'not plugged in' }}</span>
    </header>
    <div class="mb-3 flex gap-4">
      <!-- a plain drawing of our own: a slab with a screen of words -->
      <div class="flex h-44 w-28 shrink-0 flex-col rounded-lg border-2 border-ink bg-ink p-1.5 text-sheet" role="img" :aria-label="`Screen of the ${phone.model}`">
        <div class="flex justify-between text-[0.65rem]"><span>{{ phone.battery }}%{{ phone.isCharging ? ', charging' : '' }}</span></div>
        <div class="grid flex-1 place-items-center rounded-sm bg-[#2a3947] px-1 text-center text-xs">
          <span v-if="phone.isLocked">Locked</span>
          <span v-else-if="asks">Trust this computer?</span>
          <span v-else>{{ number(phone.contacts) }} contacts<template v-if="phone.persons !== phone.contacts"><br />{{ number(phone.persons) }} shown</template></span>
        </div>
      </div>
      <dl class="grid flex-1 grid-cols-[auto_1fr] content-start gap-x-2 gap-y-0.5 text-xs">
        <dt class="text-soft">Serial</dt><dd>{{ phone.serial }}</dd>
        <dt class="text-soft">Trust</dt><dd>{{ phone.trust }}</dd>
        <dt class="text-soft">Free</dt><dd>{{ bytes(phone.freeBytes) }}</dd>
        <dt class="text-soft">Heat</dt><dd>{{ phone.temperature }} °C</dd>
        <dt class="text-soft">Joins equal</dt><dd>{{ phone.joinsEqual ? 'by itself' : 'never' }}</dd>
        <dt class="text-soft">When full</dt><dd>{{ phone.dropsWhenFull ? 'drops silently' : 'refuses' }}</dd>
      </dl>
    </div>
    <div class="flex flex-wrap gap-1.5" role="group" :aria-label="`Hands on the ${phone.model}`">
      <button v-if="phone.port" :class="key" @click="emit('hand', 'pull')">Pull the cable</button>
      <button v-else :class="key" @click="emit('hand', 'plug')">Plug in</button>
      <button v-if="phone.isLocked" :class="key" @click="emit('hand', 'unlock')">Unlock</button>
      <button v-else :class="key" @click="emit('hand', 'lock')">Lock</button>
      <template v-if="asks">
        <button :class="key" @click="emit('hand', 'trust')">Answer “trust”</button>
        <button :class="key" @click="emit('hand', 'refuse')">Answer “don’t trust”</button>
      </template>
      <button :class="key" @click="emit('hand', 'set', { allows_contacts: !phone.allowsContacts })">{{ phone.allowsContacts ? 'Withdraw contacts' : 'Allow contacts' }}</button>
      <button :class="key" @click="emit('hand', 'set', { free_bytes: phone.freeBytes < 100000 ? 4000000000 : 4000 })">{{ phone.freeBytes < 100000 ? 'Free some space' : 'Fill it up' }}</button>
      <button :class="key" @click="emit('hand', 'set', { drops_when_full: !phone.dropsWhenFull })">{{ phone.dropsWhenFull ? 'Refuse when full' : 'Drop when full' }}</button>
      <button :class="key" @click="emit('hand', 'set', { temperature: phone.temperature >= 45 ? 27 : 46 })">{{ phone.temperature >= 45 ? 'Cool it down' : 'Heat it up' }}</button>
      <button :class="key" @click="emit('hand', 'fill', { seed: 7, count: 1 })">A contact comes in</button>
    </div>
    <form class="mt-3 flex items-end gap-1.5 border-t border-rule pt-3 text-xs" @submit.prevent="addFault">
      <label class="flex-1"><span class="mb-0.5 block text-soft">Fault</span>
        <select v-model="fault" class="field text-xs">
          <option value="">—</option>
          <optgroup v-for="p in points" :key="p.point" :label="p.point"><option v-for="e in p.effects" :key="e" :value="`${p.point} ${e}`">{{ p.point }}: {{ e }}</option></optgroup>
        </select>
      </label>
      <label class="w-16"><span class="mb-0.5 block text-soft">after</span><input v-model.number="skip" type="number" min="0" class="field text-xs" /></label>
      <button :class="key" :disabled="!fault">Switch on</button>
    </form>
    <p v-if="phone.faults.length > 0" class="mt-2 text-xs text-madder">
      {{ phone.faults.map((f) => `${f.point}: ${f.effect}${f.skip ? ` after ${f.skip}` : ''}`).join('; ') }}
      <button class="ml-1 underline" @click="emit('hand', 'faults', {}, 'DELETE')">Switch off</button>
    </p>
  </article>
</template>
