<script setup lang="ts">
import { ref } from 'vue'
import type { HandPhone } from './hand.ts'
import SmallButton from '../../components/base/SmallButton.vue'

/** Battery, temperature, storage, cable and habits; and damage to what it holds. */
const props = defineProps<{ phone: HandPhone }>()
const emit = defineEmits<{ hand: [act: string, body: object] }>()
const damage = ref('cut-card')
const record = ref(1)
const seed = ref(1)
const set = (body: object) => emit('hand', 'set', body)
const toggles: readonly { say: string; on: (p: HandPhone) => boolean; flip: (p: HandPhone) => object }[] = [
  { say: 'drops silently when full', on: (p) => p.dropsWhenFull, flip: (p) => ({ drops_when_full: !p.dropsWhenFull }) },
  { say: 'joins equal contacts', on: (p) => p.joinsEqual, flip: (p) => ({ joins_equal: !p.joinsEqual }) },
  { say: 'falls back to charging only', on: (p) => p.fallsBack, flip: (p) => ({ falls_back: !p.fallsBack }) },
  { say: 'not seen until replugged', on: (p) => p.isAsleep, flip: (p) => ({ is_asleep: !p.isAsleep }) },
  { say: 'battery and heat move', on: (p) => p.isLive, flip: (p) => ({ is_live: !p.isLive }) },
  { say: 'has a work area', on: (p) => p.hasWorkArea, flip: (p) => ({ has_work_area: !p.hasWorkArea }) },
  { say: 'account syncs contacts in', on: (p) => p.syncLeft > 0, flip: (p) => ({ sync_left: p.syncLeft > 0 ? 0 : 6 }) },
  { say: 'storage full', on: (p) => p.freeBytes < 100_000, flip: (p) => ({ free_bytes: p.freeBytes < 100_000 ? 4_000_000_000 : 4000 }) },
]
const withdraw = (kind: string) => emit('hand', 'withdraw', { kind })
const breakRecord = () => emit('hand', 'break-record', { id: record.value, damage: damage.value })
const numberOf = (event: Event) => Number((event.target as HTMLInputElement).value)
</script>

<template>
  <details class="mt-3 border-t border-rule pt-2 text-xs">
    <summary class="cursor-pointer font-semibold">State and habits</summary>
    <div class="mt-2 grid grid-cols-4 gap-1.5">
      <label
        ><span class="block text-soft">Battery %</span
        ><input type="number" min="0" max="100" class="field text-xs" :value="phone.battery" @change="set({ battery: numberOf($event) })"
      /></label>
      <label
        ><span class="block text-soft">Heat °C</span
        ><input
          type="number"
          min="0"
          max="60"
          class="field text-xs"
          :value="Math.round(phone.temperature)"
          @change="set({ temperature: numberOf($event) })"
      /></label>
      <label
        ><span class="block text-soft">Settles ms</span
        ><input
          type="number"
          min="0"
          max="600000"
          class="field text-xs"
          :value="phone.settleMs"
          @change="set({ settle_ms: numberOf($event) })"
      /></label>
      <label
        ><span class="block text-soft">Cable</span
        ><select class="field text-xs" :value="phone.cable" @change="set({ cable: ($event.target as HTMLSelectElement).value })">
          <option>data</option>
          <option>slow</option>
          <option>charge-only</option>
        </select></label
      >
    </div>
    <div class="mt-2 grid grid-cols-2 gap-x-3 gap-y-1">
      <label class="flex items-center gap-1.5"
        ><input
          type="checkbox"
          class="accent-ink"
          :checked="phone.isCharging"
          @change="set({ is_charging: !phone.isCharging })"
        />charges</label
      >
      <label v-for="t in toggles" :key="t.say" class="flex items-center gap-1.5"
        ><input type="checkbox" class="accent-ink" :checked="t.on(props.phone)" @change="set(t.flip(props.phone))" />{{ t.say }}</label
      >
    </div>
    <div class="mt-2 flex flex-wrap gap-1.5">
      <SmallButton v-for="kind in phone.allows" :key="kind" @click="withdraw(kind)">Withdraw {{ kind }}</SmallButton>
    </div>
    <form class="mt-2 flex items-end gap-1.5" @submit.prevent="emit('hand', 'roll', { seed })">
      <label class="flex-1"
        ><span class="block text-soft">State drawn from seed</span><input v-model.number="seed" type="number" min="1" class="field text-xs"
      /></label>
      <SmallButton type="submit">Draw it</SmallButton>
    </form>
    <form class="mt-2 flex items-end gap-1.5" @submit.prevent="breakRecord">
      <label class="w-16"
        ><span class="block text-soft">Record</span><input v-model.number="record" type="number" min="1" class="field text-xs"
      /></label>
      <label class="flex-1"
        ><span class="block text-soft">Damage</span
        ><select v-model="damage" class="field text-xs">
          <option>cut-card</option>
          <option>storage-error</option>
          <option>bad-photo</option>
        </select></label
      >
      <SmallButton type="submit">Damage it</SmallButton>
      <SmallButton @click="emit('hand', 'edit-record', { id: record })">Edit it</SmallButton>
    </form>
  </details>
</template>
