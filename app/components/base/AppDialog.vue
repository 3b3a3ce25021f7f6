<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

/** A dialog; Esc and a press beside it close it. */
withDefaults(defineProps<{ open: boolean; title: string; wide?: boolean }>(), { wide: false })
defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="$emit('close')">
    <div class="fixed inset-0 bg-ink/40" aria-hidden="true" />
    <div class="fixed inset-0 overflow-y-auto">
      <div class="flex min-h-full items-center justify-center p-6">
        <DialogPanel class="w-full border-t-4 border-ink bg-panel p-6 shadow-lg" :class="wide ? 'max-w-3xl' : 'max-w-lg'">
          <DialogTitle as="h2" class="mb-3 font-head text-lg font-semibold">{{ title }}</DialogTitle>
          <slot />
        </DialogPanel>
      </div>
    </div>
  </Dialog>
</template>
