<script setup lang="ts">
/** A button that reads as a line of text: a way on that is no act of the ticket’s. */
withDefaults(defineProps<{ strong?: boolean }>(), { strong: true })
</script>

<template>
  <button type="button" class="figure min-h-6" :class="{ 'font-semibold': strong }"><slot /></button>
</template>
