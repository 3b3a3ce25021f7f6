<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import { destroyReasons } from '#contracts/http/sets.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { common } from '../../words/common.ts'
import { lockersPage as said } from '../../words/lockers.ts'

/** Destroys a copy before its date: why, and its number typed. */
const props = defineProps<{ copy: CopyView | null }>()
type Reason = (typeof destroyReasons)[number]
const emit = defineEmits<{ close: []; send: [body: { why: Reason; typed: string }] }>()
const [why, typed] = [ref<Reason>('customer-asked'), ref('')]
watch(
  () => props.copy,
  () => (typed.value = ''),
)
const canSend = computed(() => props.copy !== null && typed.value.trim() === String(props.copy.id))
</script>

<template>
  <AppDialog :open="copy !== null" :title="said.destroyTitle(copy?.id ?? '')" @close="emit('close')">
    <p class="mb-3 text-soft">{{ said.destroyLead }}</p>
    <form class="space-y-3" @submit.prevent="canSend && emit('send', { why, typed })">
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.why }}</span
        ><select v-model="why" class="field">
          <option v-for="code in destroyReasons" :key="code" :value="code">{{ said.whys[code] }}</option>
        </select></label
      >
      <label class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.type(copy?.id ?? '') }}</span
        ><input v-model="typed" class="field" autocomplete="off" inputmode="numeric"
      /></label>
      <div class="flex gap-2">
        <AppButton type="submit" look="danger" :disabled="!canSend">{{ said.destroyNow }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
