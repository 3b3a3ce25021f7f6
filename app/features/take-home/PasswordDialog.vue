<script setup lang="ts">
import { ref } from 'vue'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import PasswordTwice from '../../components/base/PasswordTwice.vue'
import { common } from '../../words/common.ts'
import { takeHome as said } from '../../words/take-home.ts'

/** A password of the customer's for what is taken home; or none. */
defineProps<{ open: boolean; hasPassword: boolean }>()
const emit = defineEmits<{ close: []; send: [password: string | null] }>()
const password = ref('')
</script>

<template>
  <AppDialog :open="open" :title="said.passwordTitle" @close="emit('close')">
    <p class="mb-3">{{ said.passwordLead }}</p>
    <form class="space-y-3" @submit.prevent="password && emit('send', password)">
      <PasswordTwice v-if="open" v-model="password" :label="said.password" />
      <div class="flex flex-wrap gap-2">
        <AppButton type="submit" :disabled="!password">{{ said.lock }}</AppButton>
        <AppButton v-if="hasPassword" look="quiet" @click="emit('send', null)">{{ said.unlock }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
