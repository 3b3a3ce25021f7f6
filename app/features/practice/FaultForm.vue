<script setup lang="ts">
import { ref } from 'vue'
import type { FaultPoint, HandPhone, HandBody } from './hand.ts'
import LinkButton from '../../components/base/LinkButton.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { faultForm as said, faultPlaces, faultWords } from '../../words/practice.ts'

/** Faults to switch on: at which point, which effect, after how many passings. */
defineProps<{ phone: HandPhone; points: readonly FaultPoint[] }>()
const emit = defineEmits<{ hand: [act: string, body: HandBody, isTaken?: boolean] }>()
const fault = ref('')
const skip = ref(0)
function addFault() {
  const [point, effect] = fault.value.split(' ')
  if (point && effect) emit('hand', 'faults', { faults: [{ point, effect, skip: skip.value, times: 1 }] })
  fault.value = ''
}
</script>

<template>
  <form class="mt-2 flex items-end gap-1.5 border-t border-rule pt-2 text-xs" @submit.prevent="addFault">
    <label class="flex-1"
      ><span class="mb-0.5 block text-soft">{{ said.fault }}</span>
      <select v-model="fault" class="field text-xs">
        <option value="">—</option>
        <optgroup v-for="p in points" :key="p.point" :label="faultPlaces[p.point] ?? p.point">
          <option v-for="e in p.effects" :key="e" :value="`${p.point} ${e}`">{{ faultWords[e] ?? e }}</option>
        </optgroup>
      </select>
    </label>
    <label class="w-14"
      ><span class="mb-0.5 block text-soft">{{ said.after }}</span
      ><input v-model.number="skip" type="number" min="0" class="field text-xs"
    /></label>
    <SmallButton type="submit" :disabled="!fault">{{ said.switchOn }}</SmallButton>
  </form>
  <p v-if="phone.faults.length > 0" class="mt-2 text-xs text-madder">
    {{
      phone.faults
        .map((f) => `${faultPlaces[f.point] ?? f.point}: ${faultWords[f.effect] ?? f.effect}${f.skip ? said.from(f.skip) : ''}`)
        .join('; ')
    }}
    <LinkButton class="ml-1" @click="emit('hand', 'faults', {}, true)">{{ said.switchOff }}</LinkButton>
  </p>
</template>
