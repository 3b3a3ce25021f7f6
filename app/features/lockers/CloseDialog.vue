<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { common } from '../../words/common.ts'
import { lockersPage as said } from '../../words/lockers.ts'

/** A passphrase of the customer's, typed twice: from then on it alone opens the copy. */
const props = defineProps<{ copy: CopyView | null }>()
const emit = defineEmits<{ close: []; send: [passphrase: string] }>()
const typed = reactive({ first: '', second: '' })
watch(
  () => props.copy,
  () => Object.assign(typed, { first: '', second: '' }),
)
const isOther = computed(() => typed.second !== '' && typed.first !== typed.second)
const canSend = computed(() => typed.first.trim().length >= 8 && typed.first === typed.second)
</script>

<template>
  <AppDialog :open="copy !== null" :title="said.closeTitle(copy?.id ?? '')" @close="emit('close')">
    <p class="mb-3">{{ said.closeLead }}</p>
    <form class="space-y-3" @submit.prevent="canSend && emit('send', typed.first)">
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.passphrase }}</span
        ><input v-model="typed.first" class="field" type="password" autocomplete="new-password" maxlength="200"
      /></label>
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.onceMore }}</span
        ><input v-model="typed.second" class="field" type="password" autocomplete="new-password" maxlength="200"
      /></label>
      <p v-if="isOther" class="text-madder" role="alert">{{ said.notSame }}</p>
      <div class="flex gap-2">
        <AppButton type="submit" look="danger" :disabled="!canSend">{{ said.closeNow }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
