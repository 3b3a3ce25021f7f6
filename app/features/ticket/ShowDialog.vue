<script setup lang="ts">
import { ref } from 'vue'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { words } from '../../words/words.ts'
import { showDialog } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(showDialog)

/** Showing names takes a reason, ends by itself and is logged. */
defineProps<{ open: boolean; busy: boolean }>()
defineEmits<{ close: []; show: [reason: string] }>()
const chosen = ref('sample-with-customer')
</script>

<template>
  <AppDialog :open="open" :title="said.showNames" @close="$emit('close')">
    <p class="mb-3 text-soft">
      {{ said.namesAndNumbers }}
    </p>
    <fieldset class="mb-4 space-y-1.5">
      <legend class="mb-1 font-semibold">{{ said.why }}</legend>
      <label v-for="(text, code) in words.showReasons" :key="code" class="flex items-center gap-2"
        ><input v-model="chosen" type="radio" name="why" :value="code" class="accent-ink" />{{ text }}</label
      >
    </fieldset>
    <div class="flex gap-2">
      <AppButton look="accent" :busy="busy" @click="$emit('show', chosen)">{{ said.showNamesFor10 }}</AppButton>
      <AppButton look="quiet" @click="$emit('close')">{{ said.keepThemHidden }}</AppButton>
    </div>
  </AppDialog>
</template>
