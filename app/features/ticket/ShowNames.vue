<script setup lang="ts">
import { EyeOff } from '@lucide/vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { common } from '../../words/common.ts'

/** Names are hidden here; a press asks for the reason to show them. */
defineProps<{ what?: string }>()
</script>

<template>
  <SmallButton class="mb-1.5 flex items-center justify-center gap-2"
    ><EyeOff :size="14" aria-hidden="true" />{{ what ?? common.namesAreHiddenShowButton }}</SmallButton
  >
</template>
