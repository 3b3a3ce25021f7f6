<script setup lang="ts">
import { ref } from 'vue'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { words } from '../../words/words.ts'

/** Showing names takes a reason, ends by itself and is logged. */
defineProps<{ open: boolean; busy: boolean }>()
defineEmits<{ close: []; show: [reason: string] }>()
const chosen = ref('sample-with-customer')
</script>

<template>
  <AppDialog :open="open" title="Show names" @close="$emit('close')">
    <p class="mb-3 text-soft">
      Names and numbers of this ticket are shown to you for 10 minutes. Your name, the reason and the time are kept.
    </p>
    <fieldset class="mb-4 space-y-1.5">
      <legend class="mb-1 font-semibold">Why</legend>
      <label v-for="(text, code) in words.showReasons" :key="code" class="flex items-center gap-2"
        ><input v-model="chosen" type="radio" name="why" :value="code" class="accent-ink" />{{ text }}</label
      >
    </fieldset>
    <div class="flex gap-2">
      <AppButton look="accent" :busy="busy" @click="$emit('show', chosen)">Show names for 10 minutes</AppButton>
      <AppButton look="quiet" @click="$emit('close')">Keep them hidden</AppButton>
    </div>
  </AppDialog>
</template>
