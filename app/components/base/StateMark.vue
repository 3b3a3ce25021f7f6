<script setup lang="ts">
/** A state by its word; the colour only repeats it. */
defineProps<{ tone: 'good' | 'note' | 'bad' | 'run' | 'plain' }>()
const tones = {
  good: 'text-verdigris bg-verdigris-pale border-verdigris/40',
  note: 'text-ochre bg-ochre-pale border-ochre/40',
  bad: 'text-madder bg-madder-pale border-madder/40',
  run: 'text-slate bg-slate-pale border-slate/40',
  plain: 'text-soft bg-panel border-rule',
}
</script>

<template>
  <span
    class="inline-block whitespace-nowrap rounded-[3px] border px-2 py-0.5 text-xs font-semibold"
    :class="tones[tone]"
    :data-state="tone"
    ><slot
  /></span>
</template>
