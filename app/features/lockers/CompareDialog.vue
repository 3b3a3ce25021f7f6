<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { z } from 'zod'
import type { CopyView, lookBody } from '#contracts/http/lockers.ts'
import type { TodayView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { day } from '../../words/say.ts'
import { common } from '../../words/common.ts'
import { compareDialog as said } from '../../words/lockers.ts'

/** With what a copy is compared: another copy, or a phone that stands in a port without a ticket. */
const props = defineProps<{ copy: CopyView | null; copies: readonly CopyView[]; ports: TodayView['ports'] }>()
const emit = defineEmits<{ close: []; send: [beside: NonNullable<z.output<typeof lookBody>['beside']>] }>()
const picked = ref('')
watch(
  () => props.copy,
  () => (picked.value = ''),
)
const others = computed(() => [
  ...props.copies
    .filter(({ id, isClosed, destroyed }) => id !== props.copy?.id && !isClosed && !destroyed)
    .map(({ id, phone, asOf }) => ({ key: `c${id}`, line: said.copy(id, phone.model, asOf ? day(asOf) : ''), beside: { copy: id } })),
  ...props.ports.flatMap(({ port, phone, ticket }) =>
    phone && !ticket ? [{ key: `p${port}`, line: said.phone(phone.model, port), beside: { serial: phone.serial } }] : [],
  ),
])
const beside = computed(() => others.value.find(({ key }) => key === picked.value)?.beside)
</script>

<template>
  <AppDialog :open="copy !== null" :title="said.title(copy?.id ?? '')" @close="emit('close')">
    <p v-if="others.length === 0" class="mb-3 text-soft">{{ said.nothingThere }}</p>
    <form v-else class="space-y-3" @submit.prevent="beside && emit('send', beside)">
      <fieldset class="space-y-1">
        <legend class="mb-1 text-xs text-soft">{{ said.with }}</legend>
        <label v-for="other in others" :key="other.key" class="flex items-center gap-2 border border-rule bg-sheet px-2.5 py-1.5"
          ><input v-model="picked" type="radio" name="beside" :value="other.key" class="accent-ink" />{{ other.line }}</label
        >
      </fieldset>
      <div class="flex gap-2">
        <AppButton type="submit" look="accent" :disabled="!beside">{{ said.compare }}</AppButton>
        <AppButton look="quiet" @click="emit('close')">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
