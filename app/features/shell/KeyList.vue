<script setup lang="ts">
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'

defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()
const keys = [
  ['/', 'find a ticket'],
  ['n', 'on a ticket: to what comes next'],
  ['j  k', 'through the rows of a table or a list; the arrows do the same'],
  ['h  l', 'along a row of the ledger, or of tiles'],
  ['Enter', 'open, or press'],
  ['Esc', 'close what is open'],
  ['Space', 'carry an item of a list, or leave it'],
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
    <AppButton class="mt-4" @click="$emit('close')">Close the list</AppButton>
  </AppDialog>
</template>
