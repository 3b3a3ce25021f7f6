<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofKind, ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { GroupedBy } from '../opened.ts'
import SpaceBox from './SpaceBox.vue'
import SentenceBox from '../../../components/base/SentenceBox.vue'
import { faceOf } from '#core/kinds/faces.ts'
import { findModel } from '#core/phones/models.ts'
import AppButton from '../../../components/base/AppButton.vue'
import LinkButton from '../../../components/base/LinkButton.vue'
import SmallButton from '../../../components/base/SmallButton.vue'
import { foretoldToCome, whatWaits } from '#core/book/index.ts'
import { mayChoose } from '../../../words/standing.ts'
import { itemsOf, people } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import ForecastTable from './ForecastTable.vue'
import { packOf } from '../../../kinds/registry.ts'
import { common } from '../../../words/common.ts'
import { choosePanel } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(choosePanel)

/** What is carried, and what the forecast says of it, before anything is written. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; busy: string }>()
const emit = defineEmits<{
  act: [name: string, call: TicketCall]
  open: [filter: EntryFilter, reason?: string]
  groups: [by: GroupedBy]
  joinings: []
  carry: []
}>()
const forecast = computed(() => props.ticket.forecasts.find((f) => f.kind === props.row.kind))
const pack = computed(() => packOf(props.row.kind))
const choices = [
  { code: 'all', name: common.all },
  { code: 'none', name: common.none },
  { code: 'some', name: said.oneByOne },
] as const
/** Foretold as possible: which ones it joins, only the phone knows. */
const joinsEqual = computed(() => faceOf(props.row.kind).joining?.isByItself(findModel(props.ticket.new)) === true)
const canChoose = computed(() => mayChoose(props.ticket, props.row.kind))
function choose(choice: 'all' | 'none' | 'some') {
  emit('act', 'choose', ofKind(calls.choose, forecast.value!.kind, { choice, mode: 'add' }))
  if (choice === 'some') emit('open', 'all')
}
/** All kinds together: what one press carries, joined ones among it. */
const all = computed(() => foretoldToCome(props.ticket.ledger, props.ticket.forecasts))
const waiting = computed(() => whatWaits(props.ticket.ledger, props.ticket.forecasts))
const isAnything = computed(() => waiting.value.waits > 0 || props.ticket.forecasts.some(({ counts }) => counts.alreadyThere > 0))
/** Before anything is written, with nothing to carry, too: the ticket goes on to its check. Afterwards only while something waits. */
const isOffered = computed(
  () => mayChoose(props.ticket) && (!props.ticket.areRolesFrozen || waiting.value.comes + waiting.value.byHand > 0),
)
</script>

<template>
  <p v-if="!forecast" class="text-soft">
    {{ ticket.run?.type === 'count-in' ? said.canBeChosenOnce(words.kinds[row.kind]!) : said.firstBothPhones }}
  </p>
  <template v-else>
    <SentenceBox v-if="ticket.needsExchangeAnswer" tone="note" class="mb-2" data-testid="exchange-question">{{
      said.rolesDoubt(ticket.new.model, ticket.old.model)
    }}</SentenceBox>
    <fieldset class="mb-2 flex gap-1.5" :disabled="!canChoose">
      <legend class="sr-only">{{ said.toCarry(words.kinds[row.kind]!) }}</legend>
      <!-- buttons: arrow keys that pass over them decide nothing -->
      <SmallButton v-for="c in choices" :key="c.code" :pressed="forecast.choice === c.code" @click="choose(c.code)">{{
        c.name
      }}</SmallButton>
    </fieldset>
    <p v-if="pack?.bySpan" class="mb-2 flex flex-wrap gap-x-4 gap-y-1 text-xs [&>button]:whitespace-nowrap">
      <LinkButton v-if="words.groups[row.kind]" @click="$emit('groups', 'group')">{{
        said.chooseBy(words.groups[row.kind]!.one)
      }}</LinkButton>
      <LinkButton @click="$emit('groups', 'month')">{{ said.byMonthOrYear }}</LinkButton>
      <LinkButton v-if="pack?.tiles" @click="$emit('open', 'all')">{{ said.asTiles }}</LinkButton>
    </p>
    <p v-if="forecast.onBoth.all > 0" class="mb-2 text-xs">
      <LinkButton @click="$emit('joinings')">{{ said.onBoth(people(forecast.onBoth.all)) }}</LinkButton>
    </p>
    <p class="mb-2 text-xs text-soft">{{ said.beside }}</p>
    <p v-if="joinsEqual" class="mb-2 text-xs text-soft">
      {{ said.mayJoinEqualContacts(ticket.new.model) }}
    </p>
    <h3 class="mb-1 font-body text-xs font-semibold text-soft">
      {{ common.forecast }}<template v-if="ticket.forecasts.length > 1">{{ ' ' }}{{ said.of(words.many[row.kind]!) }}</template>
    </h3>
    <ForecastTable :ticket="ticket" :row="row" :forecast="forecast" @open="(filter, why) => emit('open', filter, why)">
      <SpaceBox
        v-if="ticket.plan && (faceOf(row.kind).isMedia || (ticket.plan.space && !ticket.plan.space.fits))"
        :plan="ticket.plan"
        :model="ticket.new.model"
        :can-choose="canChoose"
        :busy="busy"
        @way-out="(body) => emit('act', 'way-out', ofTicket(calls.takeWayOut, body))"
      />
    </ForecastTable>
    <label v-if="mayChoose(ticket) && ticket.kinds.length > 1" class="mb-3 block text-xs"
      ><span class="mb-0.5 block font-semibold text-soft">{{ said.carriedFirst }}</span>
      <select
        class="field py-1 text-xs"
        :value="ticket.firstKind ?? ''"
        @change="emit('act', 'first', ofTicket(calls.putFirst, { kind: ($event.target as HTMLSelectElement).value || null }))"
      >
        <option value="">{{ said.lightKindsThenPhotos }}</option>
        <option v-for="kind in ticket.kinds" :key="kind" :value="kind">{{ said.beforeAllElse(words.kinds[kind]!) }}</option>
      </select>
    </label>
    <div v-if="isOffered" class="sticky bottom-0 -mx-4 -mb-4 border-t border-rule bg-panel px-4 py-3">
      <AppButton
        :look="ticket.straight?.stop ? 'plain' : 'accent'"
        class="w-full"
        :disabled="ticket.plan?.space?.fits === false"
        :busy="busy === 'carry'"
        @click="$emit('carry')"
      >
        <template v-if="isAnything">{{ said.carryTo(itemsOf(all), ticket.new.model) }}</template><template v-else>{{
          said.carryNothingAndCheck
        }}</template>
      </AppButton>
      <p v-if="waiting.comes < waiting.waits" class="mt-1.5 text-xs text-soft" data-testid="waiting-why">{{ said.waitingWhy(waiting) }}</p>
    </div>
  </template>
</template>
