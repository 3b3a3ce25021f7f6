<script setup lang="ts">
import { ref, watch } from 'vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { common } from '../../words/common.ts'
import { lastDayOf, lockerPick, lockersPage as said } from '../../words/lockers.ts'

/** Until when a copy is kept from now on. */
const props = defineProps<{ copy: CopyView | null }>()
const emit = defineEmits<{ close: []; send: [keepUntil: string] }>()
const until = ref('')
const today = new Date().toISOString().slice(0, 10)
watch(
  () => props.copy,
  (copy) => (until.value = copy ? lastDayOf(copy.keepUntil).slice(0, 10) : ''),
)
</script>

<template>
  <AppDialog :open="copy !== null" :title="said.keepTitle(copy?.id ?? '')" @close="emit('close')">
    <form class="space-y-3" @submit.prevent="emit('send', until)">
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ lockerPick.keptUntil }}</span
        ><input v-model="until" class="field" type="date" required :min="today"
      /></label>
      <div class="flex gap-2">
        <AppButton type="submit" look="accent" :disabled="!until">{{ said.keepIt }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
