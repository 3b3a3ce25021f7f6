<script setup lang="ts">
import { ref, toRef, watch } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { NotTakenView } from '#contracts/http/uploads.ts'
import NotTakenList from '../../components/base/NotTakenList.vue'
import { api } from '../../composables/use-api.ts'
import MaskedName from './MaskedName.vue'
import ShowNames from './ShowNames.vue'
import { useShown } from './use-shown.ts'

/** What was brought with a ticket and is nothing Corvend takes. */
const props = defineProps<{ ticket: TicketView }>()
defineEmits<{ show: [] }>()
const view = ref<NotTakenView | null>(null)
const isGiven = ref(false)
const isShown = useShown(
  toRef(() => props.ticket.showingUntil),
  isGiven,
)
async function look() {
  // what it was not told it does not say; the ticket's own answer says what is wrong
  view.value = await api(calls.notTaken, { params: { number: props.ticket.number } }).catch(() => null)
  isGiven.value = view.value?.isShowing ?? false
}
watch(() => [props.ticket.number, props.ticket.showingUntil], look, { immediate: true })
</script>

<template>
  <NotTakenList v-if="view" class="mb-3" :total="view.total" :rows="isShown ? view.rows : view.rows.map((row) => ({ ...row, path: null }))">
    <template #masked="{ seed }"><MaskedName :seed="seed" /></template>
    <ShowNames v-if="!isShown" class="mt-1.5" @click="$emit('show')" />
  </NotTakenList>
</template>
