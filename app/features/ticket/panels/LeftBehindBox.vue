<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { ofKind, type TicketCall } from '../ticket-call.ts'
import { computed, ref } from 'vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { items } from '../../../words/say.ts'

/** What this ticket wrote on the new phone and is no item's any more: taken away by one press, or typed where it reads otherwise. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; busy: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall]; open: [] }>()
const typed = ref('')
const left = computed(() => props.ticket.leftBehind.find(({ kind }) => kind === props.row.kind) ?? { asWritten: 0, changed: 0 })
const isTyped = computed(() => typed.value.trim().toUpperCase() === props.ticket.number)
const takeAll = () => emit('act', 'take-away', ofKind(routes.takeAway, props.row.kind, { changed: true, typed: typed.value }))
</script>

<template>
  <section v-if="left.asWritten + left.changed > 0" class="border border-madder bg-sheet p-3" data-testid="left-behind">
    <h3 class="mb-1 font-body font-semibold">Left behind on the NEW {{ ticket.new.model }}</h3>
    <p class="mb-2 text-soft">
      <button type="button" class="font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink" @click="emit('open')">
        {{ items(row.kind, left.asWritten + left.changed) }}
      </button>
      {{ left.asWritten + left.changed === 1 ? 'was' : 'were' }} written by this ticket and
      {{ left.asWritten + left.changed === 1 ? 'belongs' : 'belong' }} to nothing on the old phone any more.
    </p>
    <AppButton
      v-if="left.asWritten > 0"
      class="w-full"
      :busy="busy === 'take-away'"
      @click="emit('act', 'take-away', ofKind(routes.takeAway, row.kind))"
      >Take away {{ items(row.kind, left.asWritten) }} that still {{ left.asWritten === 1 ? 'says' : 'say' }} what was written</AppButton
    >
    <form v-if="left.changed > 0" class="mt-2" @submit.prevent="takeAll">
      <label class="block"
        ><span class="mb-1 block"
          >{{ items(row.kind, left.changed) }} {{ left.changed === 1 ? 'reads' : 'read' }} otherwise now. Look at
          {{ left.changed === 1 ? 'it' : 'them' }} first; to take {{ left.changed === 1 ? 'it' : 'them' }} away, type
          {{ ticket.number }}:</span
        ><input v-model="typed" class="field" autocomplete="off"
      /></label>
      <AppButton look="danger" type="submit" class="mt-2 w-full" :disabled="!isTyped" :busy="busy === 'take-away'"
        >Take away all {{ items(row.kind, left.asWritten + left.changed) }} from port {{ ticket.new.port ?? '—' }}</AppButton
      >
    </form>
  </section>
</template>
