<script setup lang="ts">
import { oldNew as said } from '../../words/base.ts'

/** What was and what is, or comes: an arrow for the eye, a word for the ear. */
defineProps<{ old: string; now: string }>()
</script>

<template>
  <span
    >{{ old }} <span aria-hidden="true">→</span><span class="sr-only">{{ said.to }}</span> {{ now }}</span
  >
</template>
