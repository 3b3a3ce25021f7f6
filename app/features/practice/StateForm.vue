<script setup lang="ts">
import { ref } from 'vue'
import type { HandPhone, HandBody } from './hand.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { common } from '../../words/common.ts'
import { cableWords, damageWords, stateForm as said } from '../../words/practice.ts'
import { words } from '../../words/words.ts'

/** Battery, temperature, storage, cable and habits; and damage to what it holds. */
const props = defineProps<{ phone: HandPhone }>()
const emit = defineEmits<{ hand: [act: string, body: HandBody] }>()
const damage = ref('cut-card')
const record = ref(1)
const seed = ref(1)
const set = (body: HandBody) => emit('hand', 'set', body)
const toggles: readonly { say: string; on: (p: HandPhone) => boolean; flip: (p: HandPhone) => HandBody }[] = [
  { say: said.dropsSilentlyWhenFull, on: (p) => p.dropsWhenFull, flip: (p) => ({ drops_when_full: !p.dropsWhenFull }) },
  { say: said.joinsEqualContacts, on: (p) => p.joinsEqual, flip: (p) => ({ joins_equal: !p.joinsEqual }) },
  { say: said.fallsBackToCharging, on: (p) => p.fallsBack, flip: (p) => ({ falls_back: !p.fallsBack }) },
  { say: said.notSeenUntilReplugged, on: (p) => p.isAsleep, flip: (p) => ({ is_asleep: !p.isAsleep }) },
  { say: said.batteryAndHeatMove, on: (p) => p.isLive, flip: (p) => ({ is_live: !p.isLive }) },
  { say: said.hasWorkArea, on: (p) => p.hasWorkArea, flip: (p) => ({ has_work_area: !p.hasWorkArea }) },
  { say: said.accountSyncsContactsIn, on: (p) => p.syncLeft > 0, flip: (p) => ({ sync_left: p.syncLeft > 0 ? 0 : 6 }) },
  { say: said.storageFull, on: (p) => p.freeBytes < 100_000, flip: (p) => ({ free_bytes: p.freeBytes < 100_000 ? 4_000_000_000 : 4000 }) },
]
const withdraw = (kind: string) => emit('hand', 'withdraw', { kind })
const breakRecord = () => emit('hand', 'break-record', { id: record.value, damage: damage.value })
const numberOf = (event: Event) => Number((event.target as HTMLInputElement).value)
</script>

<template>
  <details class="mt-3 border-t border-rule pt-2 text-xs">
    <summary class="cursor-pointer font-semibold">{{ said.stateAndHabits }}</summary>
    <div class="mt-2 grid grid-cols-4 gap-1.5">
      <label
        ><span class="block text-soft">{{ said.battery }}</span
        ><input type="number" min="0" max="100" class="field text-xs" :value="phone.battery" @change="set({ battery: numberOf($event) })"
      /></label>
      <label
        ><span class="block text-soft">{{ said.heatC }}</span
        ><input
          type="number"
          min="0"
          max="60"
          class="field text-xs"
          :value="Math.round(phone.temperature)"
          @change="set({ temperature: numberOf($event) })"
      /></label>
      <label
        ><span class="block text-soft">{{ said.settlesMs }}</span
        ><input
          type="number"
          min="0"
          max="600000"
          class="field text-xs"
          :value="phone.settleMs"
          @change="set({ settle_ms: numberOf($event) })"
      /></label>
      <label
        ><span class="block text-soft">{{ common.cable }}</span
        ><select class="field text-xs" :value="phone.cable" @change="set({ cable: ($event.target as HTMLSelectElement).value })">
          <option v-for="(say, cable) in cableWords" :key="cable" :value="cable">{{ say }}</option>
        </select></label
      >
    </div>
    <div class="mt-2 grid grid-cols-2 gap-x-3 gap-y-1">
      <label class="flex items-center gap-1.5"
        ><input type="checkbox" class="accent-ink" :checked="phone.isCharging" @change="set({ is_charging: !phone.isCharging })" />{{
          said.charges
        }}</label
      >
      <label v-for="t in toggles" :key="t.say" class="flex items-center gap-1.5"
        ><input type="checkbox" class="accent-ink" :checked="t.on(props.phone)" @change="set(t.flip(props.phone))" />{{ t.say }}</label
      >
    </div>
    <div class="mt-2 flex flex-wrap gap-1.5">
      <SmallButton v-for="kind in phone.allows" :key="kind" @click="withdraw(kind)">{{
        said.withdraw(words.many[kind] ?? kind)
      }}</SmallButton>
    </div>
    <form class="mt-2 flex items-end gap-1.5" @submit.prevent="emit('hand', 'roll', { seed })">
      <label class="flex-1"
        ><span class="block text-soft">{{ said.stateDrawnFromSeed }}</span
        ><input v-model.number="seed" type="number" min="1" class="field text-xs"
      /></label>
      <SmallButton type="submit">{{ said.drawIt }}</SmallButton>
    </form>
    <form class="mt-2 flex items-end gap-1.5" @submit.prevent="breakRecord">
      <label class="w-16"
        ><span class="block text-soft">{{ said.record }}</span
        ><input v-model.number="record" type="number" min="1" class="field text-xs"
      /></label>
      <label class="flex-1"
        ><span class="block text-soft">{{ said.damage }}</span
        ><select v-model="damage" class="field text-xs">
          <option v-for="(say, code) in damageWords" :key="code" :value="code">{{ say }}</option>
        </select></label
      >
      <SmallButton type="submit">{{ said.damageIt }}</SmallButton>
      <SmallButton @click="emit('hand', 'edit-record', { id: record })">{{ said.editIt }}</SmallButton>
    </form>
  </details>
</template>
