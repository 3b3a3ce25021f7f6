<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { ofKind, ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { GroupedBy } from '../opened.ts'
import SpaceBox from '../../photos/SpaceBox.vue'
import SentenceBox from '../../../components/base/SentenceBox.vue'
import { findModel } from '#core/phones/models.ts'
import AppButton from '../../../components/base/AppButton.vue'
import LinkButton from '../../../components/base/LinkButton.vue'
import SmallButton from '../../../components/base/SmallButton.vue'
import { mayChoose } from '../standing.ts'
import { itemsOf, people } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import ForecastTable from './ForecastTable.vue'

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
const choices = [
  { code: 'all', name: 'All' },
  { code: 'none', name: 'None' },
  { code: 'some', name: 'One by one' },
] as const
/** Foretold as possible: which ones it joins, only the phone knows. */
const joinsEqual = computed(() => {
  const { write } = findModel(props.ticket.new).capability.contacts
  return props.row.kind === 'contacts' && !('cannot' in write) && write.joinsEqual
})
const canChoose = computed(() => mayChoose(props.ticket, props.row.kind))
function choose(choice: 'all' | 'none' | 'some') {
  emit('act', 'choose', ofKind(routes.choose, forecast.value!.kind, { choice, mode: 'add' }))
  if (choice === 'some') emit('open', 'all')
}
/** What one press takes over, joined ones among it. */
const crossing = (n: TicketView['forecasts'][number]['counts']) => n.carried + n.changed + n.merged
/** All kinds together: what one press carries. */
const all = computed(() => props.ticket.forecasts.map((f) => ({ kind: f.kind, n: crossing(f.counts) - byHand(f.kind) })))
/** Apps the customer installs are not carried. */
const byHand = (kind: string) => props.ticket.ledger.find((one) => one.kind === kind)?.toInstall ?? 0
const isAnything = computed(() => props.ticket.forecasts.some((f) => crossing(f.counts) + f.counts.alreadyThere > 0))
/** Before anything is written, with nothing to carry, too: the ticket goes on to its check. Afterwards only while something waits. */
const isOffered = computed(
  () => mayChoose(props.ticket) && (!props.ticket.areRolesFrozen || props.ticket.forecasts.some(({ counts }) => crossing(counts) > 0)),
)
</script>

<template>
  <p v-if="!forecast" class="text-soft">
    {{
      ticket.run?.type === 'count-in'
        ? `${words.kinds[row.kind]} can be chosen once they are read on both phones.`
        : 'First both phones are counted in.'
    }}
  </p>
  <template v-else>
    <SentenceBox v-if="ticket.needsExchangeAnswer" tone="note" class="mb-2" data-testid="exchange-question"
      >Are the phones the right way round? The NEW {{ ticket.new.model }} holds more than the OLD {{ ticket.old.model }} by far. If they are
      mixed up, exchange them at Make ready; it is asked once more before anything is written.</SentenceBox
    >
    <fieldset class="mb-2 flex gap-1.5" :disabled="!canChoose">
      <legend class="sr-only">{{ words.kinds[row.kind] }} to carry</legend>
      <!-- buttons: arrow keys that pass over them decide nothing -->
      <SmallButton v-for="c in choices" :key="c.code" :pressed="forecast.choice === c.code" @click="choose(c.code)">{{
        c.name
      }}</SmallButton>
    </fieldset>
    <p
      v-if="row.kind !== 'contacts' && row.kind !== 'apps'"
      class="mb-2 flex flex-wrap gap-x-4 gap-y-1 text-xs [&>button]:whitespace-nowrap"
    >
      <LinkButton v-if="words.groups[row.kind]" @click="$emit('groups', 'group')">Choose by {{ words.groups[row.kind]!.one }}…</LinkButton>
      <LinkButton @click="$emit('groups', 'month')">By month or year…</LinkButton>
      <LinkButton v-if="row.kind === 'photos'" @click="$emit('open', 'all')">As tiles…</LinkButton>
    </p>
    <p v-if="forecast.onBoth.all > 0" class="mb-2 text-xs">
      <LinkButton @click="$emit('joinings')">{{ people(forecast.onBoth.all) }} on both phones: join or keep both…</LinkButton>
    </p>
    <p class="mb-2 text-xs text-soft">Added beside what the new phone holds: nothing there is overwritten, the identical is not doubled.</p>
    <p v-if="joinsEqual" class="mb-2 text-xs text-soft">
      The {{ ticket.new.model }} may join equal contacts into one by itself: those then count as merged, and nothing of them is lost.
    </p>
    <h3 class="mb-1 font-body text-xs font-semibold text-soft">
      Forecast<template v-if="ticket.forecasts.length > 1"> of {{ words.many[row.kind] }}</template>
    </h3>
    <ForecastTable :ticket="ticket" :row="row" :forecast="forecast" @open="(filter, why) => emit('open', filter, why)">
      <SpaceBox
        v-if="ticket.plan && (row.kind === 'photos' || row.kind === 'apps' || (ticket.plan.space && !ticket.plan.space.fits))"
        :plan="ticket.plan"
        :model="ticket.new.model"
        :can-choose="canChoose"
        :busy="busy"
        @way-out="(body) => emit('act', 'way-out', ofTicket(routes.takeWayOut, body))"
      />
    </ForecastTable>
    <label v-if="mayChoose(ticket) && ticket.kinds.length > 1" class="mb-3 block text-xs"
      ><span class="mb-0.5 block font-semibold text-soft">Carried first</span>
      <select
        class="field py-1 text-xs"
        :value="ticket.firstKind ?? ''"
        @change="emit('act', 'first', ofTicket(routes.putFirst, { kind: ($event.target as HTMLSelectElement).value || null }))"
      >
        <option value="">Light kinds, then photos and apps</option>
        <option v-for="kind in ticket.kinds" :key="kind" :value="kind">{{ words.kinds[kind] }}, before all else</option>
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
        <template v-if="isAnything">Carry {{ itemsOf(all) }} to the {{ ticket.new.model }}</template
        ><template v-else>Carry nothing, and check both phones</template>
      </AppButton>
    </div>
  </template>
</template>
