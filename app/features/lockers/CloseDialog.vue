<script setup lang="ts">
import { ref } from 'vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import PasswordTwice from '../../components/base/PasswordTwice.vue'
import { common } from '../../words/common.ts'
import { lockersPage as said } from '../../words/lockers.ts'

/** A passphrase of the customer's: from then on it alone opens the copy. */
defineProps<{ copy: CopyView | null }>()
const emit = defineEmits<{ close: []; send: [passphrase: string] }>()
const typed = ref('')
</script>

<template>
  <AppDialog :open="copy !== null" :title="said.closeTitle(copy?.id ?? '')" @close="emit('close')">
    <p class="mb-3">{{ said.closeLead }}</p>
    <form class="space-y-3" @submit.prevent="typed && emit('send', typed)">
      <PasswordTwice v-if="copy" v-model="typed" :label="said.passphrase" />
      <div class="flex gap-2">
        <AppButton type="submit" look="danger" :disabled="!typed">{{ said.closeNow }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
