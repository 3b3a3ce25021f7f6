<script setup lang="ts">
import { computed } from 'vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { items, itemsOf, together } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { carryQuestions } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(carryQuestions)

/** What is asked once before anything is written. */
const props = defineProps<{ ticket: TicketView; asks: 'roles' | 'left-out' | null; leftOut: readonly LedgerRow[] }>()
defineEmits<{ no: []; yes: []; back: [] }>()
const totals = computed(() => ({
  old: itemsOf(props.ticket.ledger.map((r) => ({ kind: r.kind, n: r.old.read }))),
  new: itemsOf(props.ticket.ledger.map((r) => ({ kind: r.kind, n: r.new.first ?? 0 }))),
}))
const join = (of: (row: LedgerRow) => string) => together(props.leftOut.map(of))
</script>

<template>
  <AppDialog :open="asks === 'roles'" :title="said.arePhonesRightWay" @close="$emit('no')">
    <p class="mb-3">
      {{ said.phoneNamed }} <strong>{{ words.sides.new }}</strong>{{
        said.onPortHolds(ticket.new.model, ticket.new.port ?? '', totals.new)
      }}
      <strong>{{ words.sides.old }}</strong> {{ said.one(ticket.old.model)
      }}<template v-if="ticket.old.port">{{ ' ' }}{{ said.onPort(ticket.old.port) }}</template
      >{{ said.holds(totals.old) }}
    </p>
    <div class="flex flex-wrap gap-2">
      <AppButton look="accent" @click="$emit('back')">{{ said.noGoBack }}</AppButton>
      <AppButton look="danger" @click="$emit('yes')">{{ said.yesCarry(ticket.new.model, ticket.new.port ?? '') }}</AppButton>
    </div>
  </AppDialog>
  <AppDialog :open="asks === 'left-out'" :title="said.without(join((r) => words.many[r.kind]!))" @close="$emit('no')">
    <p class="mb-3">
      {{
        said.nothingIsChosen(
          join((r) => items(r.kind, r.fates.notChosen)),
          ticket.old.model,
        )
      }}
    </p>
    <div class="flex flex-wrap gap-2">
      <AppButton look="accent" @click="$emit('no')">{{ said.noChooseAgain }}</AppButton>
      <AppButton look="danger" @click="$emit('yes')">{{ said.yesCarryWithoutThem }}</AppButton>
    </div>
  </AppDialog>
</template>
