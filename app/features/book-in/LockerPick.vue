<script setup lang="ts">
import { computed } from 'vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import { day, number } from '../../words/say.ts'
import { lockerPick as said } from '../../words/lockers.ts'
import { pickOfCopy, type PhoneChoice } from './phone-choice.ts'
import PlacePick from './PlacePick.vue'

/** A copy in a locker in place of a phone: as the old one a copy that is put back, as the new one a copy that is made. */
const props = defineProps<{ side: 'old' | 'new'; copies: readonly CopyView[] }>()
const choice = defineModel<PhoneChoice | null>({ required: true })
const isHere = computed(() => choice.value?.place === 'locker')
/** Thirty days are what most customers ask for. */
const usual = new Date(Date.now() + 30 * 86_400_000).toISOString().slice(0, 10)
const today = new Date().toISOString().slice(0, 10)
const lineOf = ({ id, customer, phone, asOf, items }: CopyView) =>
  said.copy(id, customer ?? said.nobody, phone.model, day(asOf!), number(items))

function keep(until: string) {
  choice.value = { place: 'locker', maker: 'Locker', model: 'locker', platform: 'locker', version: '', serial: null, keepUntil: until }
}
function putBack(event: Event) {
  const copy = props.copies.find(({ id }) => String(id) === (event.target as HTMLSelectElement).value)
  choice.value = copy ? pickOfCopy(copy) : null
}
</script>

<template>
  <PlacePick v-if="side === 'new'" :label="said.keepCopy" :is-here="isHere" @take="keep(usual)" @leave="choice = null">
    <label class="mt-2 block"
      ><span class="mb-1 block text-xs text-soft">{{ said.keptUntil }}</span
      ><input
        class="field"
        type="date"
        required
        :min="today"
        :value="choice!.keepUntil"
        @change="keep(($event.target as HTMLInputElement).value || usual)"
    /></label>
  </PlacePick>
  <div v-else-if="copies.length > 0" class="mt-3">
    <label class="mb-1 block text-xs text-soft" for="put-back">{{ said.orPutBack }}</label>
    <select id="put-back" class="field" :value="isHere ? String(choice!.copy) : ''" @change="putBack">
      <option value="">—</option>
      <option v-for="copy in copies" :key="copy.id" :value="String(copy.id)">{{ lineOf(copy) }}</option>
    </select>
    <label v-if="isHere && choice!.isClosed" class="mt-2 block"
      ><span class="mb-1 block text-xs text-soft">{{ said.passphrase }}</span
      ><input
        class="field"
        type="password"
        autocomplete="off"
        maxlength="200"
        :value="choice!.passphrase ?? ''"
        @input="choice = { ...choice!, passphrase: ($event.target as HTMLInputElement).value }"
    /></label>
  </div>
</template>
