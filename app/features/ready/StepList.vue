<script setup lang="ts">
import type { NeedView } from '#contracts/http/ready.ts'

/** Numbered steps, one finger movement each. */
defineProps<{ steps: NeedView['steps'] }>()
</script>

<template>
  <ol class="space-y-1.5">
    <li v-for="(step, i) in steps" :key="i" class="grid grid-cols-[1.4rem_1fr] gap-1.5" :data-act="step.act" :data-times="step.times">
      <span class="font-head font-semibold text-soft" aria-hidden="true">{{ i + 1 }}</span><span>{{ step.say }}</span>
    </li>
  </ol>
</template>
