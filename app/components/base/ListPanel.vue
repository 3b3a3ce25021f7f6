<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { X } from '@lucide/vue'

/** What opened beside the ledger: its head has the focus, Esc and the cross close it. */
defineProps<{ head: string; close: string }>()
const emit = defineEmits<{ close: [] }>()
const title = ref<HTMLElement>()
onMounted(() => title.value?.focus({ preventScroll: true }))
</script>

<template>
  <section class="flex h-full min-h-0 flex-col" :aria-labelledby="head" @keydown.esc.stop="emit('close')">
    <div class="flex items-start justify-between gap-2">
      <h2 :id="head" ref="title" class="text-[0.95rem]" tabindex="-1"><slot name="title" /></h2>
      <button
        type="button"
        class="grid size-6 shrink-0 place-items-center rounded-[3px] hover:bg-row"
        :aria-label="close"
        @click="emit('close')"
      >
        <X :size="16" aria-hidden="true" />
      </button>
    </div>
    <slot />
  </section>
</template>
