<script setup lang="ts">
import { ref } from 'vue'
import SmallButton from '../../components/base/SmallButton.vue'
import CallOffDialog from './CallOffDialog.vue'
import { useCallOff } from './use-call-off.ts'
import { common } from '../../words/common.ts'

/** Calls a ticket off from a page that shows one, by its number. */
defineProps<{ number: string }>()
const emit = defineEmits<{ done: [] }>()
const sentence = ref('')
const { asks, askFor, callOff } = useCallOff(
  (text) => (sentence.value = text),
  () => emit('done'),
)
</script>

<template>
  <span class="no-print">
    <SmallButton @click="askFor(number)">{{ common.callTicketOffButton }}</SmallButton>
    <span v-if="sentence" role="alert" class="ml-2 text-xs text-madder">{{ sentence }}</span>
    <CallOffDialog v-if="asks" :open="true" :ticket="asks" @close="asks = null" @send="callOff" />
  </span>
</template>
