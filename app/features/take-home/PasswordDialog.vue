<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { common } from '../../words/common.ts'
import { takeHome as said } from '../../words/take-home.ts'

/** A password of the customer's for what is taken home, typed twice; or none. */
const props = defineProps<{ open: boolean; hasPassword: boolean }>()
const emit = defineEmits<{ close: []; send: [password: string | null] }>()
const typed = reactive({ first: '', second: '' })
watch(
  () => props.open,
  () => Object.assign(typed, { first: '', second: '' }),
)
const isOther = computed(() => typed.second !== '' && typed.first !== typed.second)
const canSend = computed(() => typed.first.length >= 8 && typed.first === typed.second)
</script>

<template>
  <AppDialog :open="open" :title="said.passwordTitle" @close="emit('close')">
    <p class="mb-3">{{ said.passwordLead }}</p>
    <form class="space-y-3" @submit.prevent="canSend && emit('send', typed.first)">
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.password }}</span
        ><input v-model="typed.first" class="field" type="password" autocomplete="new-password" maxlength="200"
      /></label>
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.onceMore }}</span
        ><input v-model="typed.second" class="field" type="password" autocomplete="new-password" maxlength="200"
      /></label>
      <p v-if="isOther" class="text-madder" role="alert">{{ said.notSame }}</p>
      <div class="flex flex-wrap gap-2">
        <AppButton type="submit" :disabled="!canSend">{{ said.lock }}</AppButton>
        <AppButton v-if="hasPassword" look="quiet" @click="emit('send', null)">{{ said.unlock }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
