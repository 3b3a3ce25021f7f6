<script setup lang="ts">
import { computed } from 'vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { items, itemsOf } from '../../words/say.ts'
import { words } from '../../words/words.ts'

/** What is asked once before anything is written. */
const props = defineProps<{ ticket: TicketView; asks: 'roles' | 'left-out' | null; leftOut: readonly LedgerRow[] }>()
defineEmits<{ no: []; yes: []; back: [] }>()
const totals = computed(() => ({
  old: itemsOf(props.ticket.ledger.map((r) => ({ kind: r.kind, n: r.old.read }))),
  new: itemsOf(props.ticket.ledger.map((r) => ({ kind: r.kind, n: r.new.first ?? 0 }))),
}))
const join = (of: (row: LedgerRow) => string) => props.leftOut.map(of).join(' and ')
</script>

<template>
  <AppDialog :open="asks === 'roles'" title="Are the phones the right way round?" @close="$emit('no')">
    <p class="mb-3">
      The phone named <strong>NEW</strong>, the {{ ticket.new.model }} on port {{ ticket.new.port }}, holds {{ totals.new }}. The
      <strong>OLD</strong> one, the {{ ticket.old.model }}<template v-if="ticket.old.port"> on port {{ ticket.old.port }}</template
      >, holds {{ totals.old }}.
    </p>
    <div class="flex flex-wrap gap-2">
      <AppButton look="accent" @click="$emit('back')">No: go back to Make ready</AppButton>
      <AppButton look="danger" @click="$emit('yes')">Yes: carry to the {{ ticket.new.model }} on port {{ ticket.new.port }}</AppButton>
    </div>
  </AppDialog>
  <AppDialog :open="asks === 'left-out'" :title="`Without ${join((r) => words.many[r.kind]!)}?`" @close="$emit('no')">
    <p class="mb-3">
      Nothing is chosen of {{ join((r) => items(r.kind, r.fates.notChosen)) }}. They stay on the OLD {{ ticket.old.model }}, and the sheet
      says so.
    </p>
    <div class="flex flex-wrap gap-2">
      <AppButton look="accent" @click="$emit('no')">No: choose again</AppButton>
      <AppButton look="danger" @click="$emit('yes')">Yes: carry without them</AppButton>
    </div>
  </AppDialog>
</template>
