<script setup lang="ts">
import { EyeOff } from '@lucide/vue'
import SmallButton from '../../components/base/SmallButton.vue'

/** Names are hidden here; a press asks for the reason to show them. */
defineProps<{ what?: string }>()
</script>

<template>
  <SmallButton class="mb-1.5 flex items-center justify-center gap-2"
    ><EyeOff :size="14" aria-hidden="true" />{{ what ?? 'Names are hidden. Show them…' }}</SmallButton
  >
</template>
