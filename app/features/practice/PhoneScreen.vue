<script setup lang="ts">
import { computed } from 'vue'
import { screenOf, type HandPhone } from './hand.ts'
import { phoneScreen as said } from '../../words/practice.ts'

/** A plain drawing of our own: a slab with a screen of words; keys for a phone that has them. */
const props = defineProps<{ phone: HandPhone }>()
const screen = computed(() => screenOf(props.phone))
</script>

<template>
  <div
    class="flex h-44 w-28 shrink-0 flex-col rounded-lg border-2 border-ink bg-ink p-1.5 text-sheet"
    role="img"
    :aria-label="said.screenOf(phone.model, phone.isOn ? `${screen.head} ${screen.text}` : said.dark)"
  >
    <div class="flex justify-between text-[0.65rem]">
      <span>{{ phone.battery }}%{{ phone.isCharging ? ' +' : '' }}</span
      ><span v-if="phone.temperature >= 38">{{ Math.round(phone.temperature) }}°</span>
    </div>
    <div
      class="grid flex-1 place-content-center rounded-sm px-1 text-center text-[0.7rem] leading-tight"
      :class="phone.isOn ? 'bg-ink-lit' : 'bg-dark'"
    >
      <strong v-if="screen.head" class="font-head text-xl">{{ screen.head }}</strong><span>{{ screen.text }}</span>
    </div>
    <div v-if="phone.platform === 'keypad'" class="mt-1 grid grid-cols-3 gap-0.5" aria-hidden="true">
      <span v-for="n in 12" :key="n" class="h-2 rounded-sm bg-soft" />
    </div>
  </div>
</template>
