<script setup lang="ts">
/** Something else in place of a phone: ticked, it opens to what must be said of it. */
defineProps<{ label: string; isHere: boolean }>()
defineEmits<{ take: []; leave: [] }>()
</script>

<template>
  <div class="mt-3 border border-dashed p-2.5" :class="isHere ? 'border-ink bg-row' : 'border-faint'">
    <label class="flex items-center gap-2"
      ><input
        type="checkbox"
        class="size-4 accent-ink"
        :checked="isHere"
        @change="($event.target as HTMLInputElement).checked ? $emit('take') : $emit('leave')"
      />
      {{ label }}</label
    >
    <slot v-if="isHere" />
  </div>
</template>
