<script setup lang="ts">
/** A press that opens the browser's own choice of files, in our words; the same file can be chosen again. */
defineProps<{ label: string; isMany?: boolean; isFolder?: boolean; accept?: string }>()
const emit = defineEmits<{ pick: [files: File[]] }>()
function picked(input: HTMLInputElement) {
  const files = [...(input.files ?? [])]
  input.value = ''
  if (files.length > 0) emit('pick', files)
}
</script>

<template>
  <label
    class="inline-flex min-h-6 cursor-pointer items-center rounded-[3px] border border-ink bg-sheet px-2 py-1 text-xs font-semibold hover:bg-row has-focus-visible:outline-2 has-focus-visible:outline-offset-2"
    ><input
      type="file"
      class="sr-only"
      :multiple="isMany"
      :webkitdirectory="isFolder"
      :accept="accept"
      @change="picked($event.target as HTMLInputElement)"
    />{{ label }}</label
  >
</template>
