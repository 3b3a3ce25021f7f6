<script setup lang="ts">
/** A sentence that must be read: what went wrong and what to do, or what waits. */
defineProps<{ tone: 'bad' | 'note' | 'run' }>()
const tones = {
  bad: 'border-madder bg-madder-pale text-madder',
  note: 'border-ochre bg-ochre-pale text-ochre',
  run: 'border-slate bg-slate-pale text-slate',
}
</script>

<template>
  <p class="border-l-4 px-3 py-2 text-sm font-medium" :class="tones[tone]" :role="tone === 'bad' ? 'alert' : undefined"><slot /></p>
</template>
