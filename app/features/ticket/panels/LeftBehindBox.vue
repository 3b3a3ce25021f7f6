<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofKind, type TicketCall } from '../ticket-call.ts'
import { computed, ref } from 'vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { items } from '../../../words/say.ts'
import { leftBehindBox } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(leftBehindBox)

/** What this ticket wrote on the new phone and is no item's any more: taken away by one press, or typed where it reads otherwise. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; busy: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall]; open: [] }>()
const typed = ref('')
const left = computed(() => props.ticket.leftBehind.find(({ kind }) => kind === props.row.kind) ?? { asWritten: 0, changed: 0 })
const isTyped = computed(() => typed.value.trim().toUpperCase() === props.ticket.number)
const takeAll = () => emit('act', 'take-away', ofKind(calls.takeAway, props.row.kind, { changed: true, typed: typed.value }))
</script>

<template>
  <section v-if="left.asWritten + left.changed > 0" class="border border-madder bg-sheet p-3" data-testid="left-behind">
    <h3 class="mb-1 font-body font-semibold">{{ said.leftBehindOnNew(ticket.new.model) }}</h3>
    <p class="mb-2 text-soft">
      <button type="button" class="font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink" @click="emit('open')">
        {{ items(row.kind, left.asWritten + left.changed) }}
      </button>
      {{ said.whatItIs(left.asWritten + left.changed) }}
    </p>
    <AppButton
      v-if="left.asWritten > 0"
      class="w-full"
      :busy="busy === 'take-away'"
      @click="emit('act', 'take-away', ofKind(calls.takeAway, row.kind))"
      >{{ said.takeAwayAsWritten(items(row.kind, left.asWritten), left.asWritten) }}</AppButton
    >
    <form v-if="left.changed > 0" class="mt-2" @submit.prevent="takeAll">
      <label class="block"
        ><span class="mb-1 block">{{ said.lookFirst(items(row.kind, left.changed), left.changed, ticket.number) }}</span
        ><input v-model="typed" class="field" autocomplete="off"
      /></label>
      <AppButton look="danger" type="submit" class="mt-2 w-full" :disabled="!isTyped" :busy="busy === 'take-away'">{{
        said.takeAwayAll(items(row.kind, left.asWritten + left.changed), ticket.new.port ?? '—')
      }}</AppButton>
    </form>
  </section>
</template>
