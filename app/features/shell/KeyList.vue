<script setup lang="ts">
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { common } from '../../words/common.ts'
import { keyList as said } from '../../words/shell.ts'

defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()
const keys = [
  ['/', said.findTicket],
  ['n', said.toWhatComesNext],
  ['j  k', said.rows],
  ['h  l', said.along],
  ['Enter', said.openOrPress],
  ['Esc', said.closeWhatIsOpen],
  ['Space', said.carryOrLeave],
  ['?', said.thisList],
]
</script>

<template>
  <AppDialog :open="open" :title="common.keys" @close="$emit('close')">
    <dl class="grid grid-cols-[6rem_1fr] gap-y-2">
      <template v-for="[key, what] in keys" :key="key">
        <dt>
          <kbd class="rounded-[3px] border border-rule bg-sheet px-2 py-0.5 font-body">{{ key }}</kbd>
        </dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
    <AppButton class="mt-4" @click="$emit('close')">{{ common.closeList }}</AppButton>
  </AppDialog>
</template>
