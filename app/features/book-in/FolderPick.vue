<script setup lang="ts">
import { computed } from 'vue'
import { folderPick as said } from '../../words/take-home.ts'
import { filesHome, type PhoneChoice } from './phone-choice.ts'
import PlacePick from './PlacePick.vue'

/** Open files in place of the new phone: what its owner takes home. */
const choice = defineModel<PhoneChoice | null>({ required: true })
const isHere = computed(() => choice.value?.place === 'folder')
const take = (password: string) => {
  choice.value = filesHome(password)
}
</script>

<template>
  <PlacePick :label="said.takeHome" :is-here="isHere" @take="take('')" @leave="choice = null">
    <p class="mt-1 text-xs text-soft">{{ said.lead }}</p>
    <label class="mt-2 block"
      ><span class="mb-1 block text-xs text-soft">{{ said.password }}</span
      ><input
        class="field"
        type="password"
        autocomplete="off"
        minlength="8"
        maxlength="200"
        :value="choice!.password ?? ''"
        @input="take(($event.target as HTMLInputElement).value)"
    /></label>
  </PlacePick>
</template>
