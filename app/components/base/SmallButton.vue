<script setup lang="ts">
/** A press of less weight: in a row, or beside another. */
defineProps<{ pressed?: boolean }>()
</script>

<template>
  <button
    type="button"
    class="min-h-6 rounded-[3px] border px-2 py-1 text-xs font-semibold disabled:opacity-50"
    :class="pressed ? 'border-ink bg-ink text-sheet' : 'border-rule bg-sheet hover:bg-row'"
    :aria-pressed="pressed"
  >
    <slot />
  </button>
</template>
