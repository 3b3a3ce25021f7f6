<script setup lang="ts">
import AppDialog from '../../components/base/AppDialog.vue'

defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()
const keys = [
  ['/', 'find a ticket'],
  ['j  k', 'through rows'],
  ['Enter', 'open'],
  ['Esc', 'close'],
  ['Space', 'choose an item, or leave it'],
  ['?', 'this list'],
]
</script>

<template>
  <AppDialog :open="open" title="Keys" @close="$emit('close')">
    <dl class="grid grid-cols-[6rem_1fr] gap-y-2">
      <template v-for="[key, what] in keys" :key="key">
        <dt>
          <kbd class="rounded-[3px] border border-rule bg-sheet px-2 py-0.5 font-body">{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
    <button class="mt-4 rounded-[3px] border border-ink px-3 py-1.5 font-semibold" @click="$emit('close')">Close the list</button>
  </AppDialog>
</template>
