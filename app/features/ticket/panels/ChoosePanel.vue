<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { ofKind, ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import type { GroupedBy } from '../opened.ts'
import SpaceBox from '../../photos/SpaceBox.vue'
import SentenceBox from '../../../components/base/SentenceBox.vue'
import AppButton from '../../../components/base/AppButton.vue'
import { mayChoose } from '../standing.ts'
import { bytes, itemsOf, number, people, reason } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'

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
const canChoose = computed(() => mayChoose(props.ticket))
function choose(choice: 'all' | 'none' | 'some') {
  emit('act', 'choose', ofKind(routes.choose, forecast.value!.kind, { choice, mode: 'add' }))
  if (choice === 'some') emit('open', 'all')
}
const toCarry = computed(() => (forecast.value ? forecast.value.counts.carried + forecast.value.counts.changed : 0))
/** What one press takes over, joined ones among it. */
const crossing = (n: TicketView['forecasts'][number]['counts']) => n.carried + n.changed + n.merged
/** All kinds together: what one press carries. */
const all = computed(() => props.ticket.forecasts.map((f) => ({ kind: f.kind, n: crossing(f.counts) - byHand(f.kind) })))
/** Apps the customer installs are not carried. */
const byHand = (kind: string) => props.ticket.ledger.find((one) => one.kind === kind)?.toInstall ?? 0
const isAnything = computed(() => props.ticket.forecasts.some((f) => crossing(f.counts) + f.counts.alreadyThere > 0))
/** Before anything is written, with nothing to carry, too: the ticket goes on to its check. Afterwards only while something waits. */
const isOffered = computed(
  () => canChoose.value && (!props.ticket.areRolesFrozen || props.ticket.forecasts.some(({ counts }) => crossing(counts) > 0)),
)
const lines = computed(() => {
  const n = forecast.value!.counts
  return [
    { label: 'Carried as they are', n: n.carried, opens: 'willCarry' as const },
    { label: 'Changed on the way', n: n.changed - byHand(props.row.kind), opens: 'willChange' as const },
    { label: 'Installed by hand, as counterparts', n: byHand(props.row.kind), opens: 'toInstall' as const },
    { label: 'Joined with theirs', n: n.merged, opens: 'willMerge' as const },
    {
      label: 'Already there',
      n: n.alreadyThere,
      opens: props.ticket.areRolesFrozen ? ('alreadyThere' as const) : ('willBeThere' as const),
    },
    { label: 'Not chosen', n: n.notChosen, opens: 'notChosen' as const },
    { label: 'Can’t cross', n: n.cannotCross, opens: 'cannotCross' as const },
    { label: 'Unreadable', n: n.unreadable, opens: 'unreadable' as const },
  ].filter((line) => line.n > 0)
})
const sum = computed(() => lines.value.reduce((total, line) => total + line.n, 0))
</script>

<template>
  <p v-if="!forecast" class="text-soft">First both phones are counted in.</p>
  <template v-else>
    <SentenceBox v-if="ticket.needsExchangeAnswer" tone="note" class="mb-2" data-testid="exchange-question"
      >Are the phones the right way round? The NEW {{ ticket.new.model }} holds more than the OLD {{ ticket.old.model }} by far. If they are
      mixed up, exchange them at Make ready; it is asked once more before anything is written.</SentenceBox
    >
    <fieldset class="mb-2 flex gap-1.5" :disabled="!canChoose">
      <legend class="sr-only">{{ words.kinds[row.kind] }} to carry</legend>
      <!-- buttons: arrow keys that pass over them decide nothing -->
      <button
        v-for="c in choices"
        :key="c.code"
        type="button"
        class="border px-2.5 py-1 font-medium"
        :class="forecast.choice === c.code ? 'border-ink bg-ink text-sheet' : 'border-rule bg-sheet'"
        :aria-pressed="forecast.choice === c.code"
        @click="choose(c.code)"
      >
        {{ c.name }}
      </button>
    </fieldset>
    <p
      v-if="row.kind !== 'contacts' && row.kind !== 'apps'"
      class="mb-2 flex flex-wrap gap-x-4 gap-y-1 text-xs [&>button]:whitespace-nowrap"
    >
      <button
        v-if="words.groups[row.kind]"
        type="button"
        class="font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink"
        @click="$emit('groups', 'group')"
      >
        Choose by {{ words.groups[row.kind]!.one }}…
      </button>
      <button
        type="button"
        class="font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink"
        @click="$emit('groups', 'month')"
      >
        By month or year…
      </button>
      <button
        v-if="row.kind === 'photos'"
        type="button"
        class="font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink"
        @click="$emit('open', 'all')"
      >
        As tiles…
      </button>
    </p>
    <p v-if="forecast.onBoth.all > 0" class="mb-2 text-xs">
      <button
        type="button"
        class="font-semibold underline decoration-rule underline-offset-2 hover:decoration-ink"
        @click="$emit('joinings')"
      >
        {{ people(forecast.onBoth.all) }} on both phones: join or keep both…
      </button>
    </p>
    <p class="mb-2 text-xs text-soft">Added beside what the new phone holds: nothing there is overwritten, the identical is not doubled.</p>
    <h3 class="mb-1 font-body text-xs font-semibold text-soft">
      Forecast<template v-if="ticket.forecasts.length > 1"> of {{ words.many[row.kind] }}</template>
    </h3>
    <table class="mb-3 w-full border border-rule bg-sheet" aria-label="Forecast">
      <tbody>
        <tr v-for="line in lines" :key="line.label">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">{{ line.label }}</th>
          <td class="px-2.5 text-right">
            <button
              type="button"
              class="underline decoration-rule underline-offset-2 hover:decoration-ink"
              @click="$emit('open', line.opens)"
            >
              {{ number(line.n) }}
            </button>
          </td>
        </tr>
        <tr class="border-t border-ink font-bold">
          <th scope="row" class="px-2.5 py-1 text-left">Count of the old phone</th>
          <td class="px-2.5 text-right">{{ number(sum) }}</td>
        </tr>
        <tr class="border-t border-rule">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">
            New phone then ({{ number(row.new.first ?? 0) }} + {{ number(toCarry) }})
          </th>
          <td class="px-2.5 text-right font-bold">{{ number(forecast.counts.expected) }}</td>
        </tr>
        <tr v-if="forecast.counts.parts > 0">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">Further records it makes of them</th>
          <td class="px-2.5 text-right">
            <button
              type="button"
              class="underline decoration-rule underline-offset-2 hover:decoration-ink"
              @click="$emit('open', 'pending', row.kind === 'photos' ? 'original-beside' : 'long-text-split')"
            >
              {{ number(forecast.counts.parts) }}
            </button>
          </td>
        </tr>
        <tr v-if="ticket.new.freeBytes !== null && !(row.kind === 'photos' || row.kind === 'apps')">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">Free on the new phone</th>
          <td class="px-2.5 text-right whitespace-nowrap">{{ bytes(ticket.new.freeBytes) }}</td>
        </tr>
      </tbody>
    </table>
    <SpaceBox
      v-if="ticket.plan && (row.kind === 'photos' || row.kind === 'apps' || (ticket.plan.space && !ticket.plan.space.fits))"
      :plan="ticket.plan"
      :model="ticket.new.model"
      :can-choose="canChoose"
      :busy="busy"
      @way-out="(body) => emit('act', 'way-out', ofTicket(routes.takeWayOut, body))"
    />
    <template v-if="forecast.changes.length > 0 || forecast.rules.length > 0">
      <h3 class="mb-1 font-body text-xs font-semibold text-soft">What changes, and why</h3>
      <ul class="mb-3 space-y-1">
        <li v-for="c in forecast.changes" :key="c.code" class="grid grid-cols-[3.1rem_2.4rem_1fr] gap-1">
          <button
            type="button"
            class="self-start text-right leading-5 font-bold underline decoration-rule underline-offset-2"
            @click="$emit('open', 'pending', c.code)"
          >
            {{ number(c.items) }}</button><span class="text-xs leading-5 font-semibold" :class="c.loss ? 'text-ochre' : 'text-verdigris'">{{
            c.loss ? 'loss' : 'kept'
          }}</span
          ><span>{{ reason(c.code) }}</span>
        </li>
        <li v-for="r in forecast.rules" :key="r.code" class="grid grid-cols-[3.1rem_2.4rem_1fr] gap-1">
          <button
            type="button"
            class="self-start text-right leading-5 font-bold underline decoration-rule underline-offset-2"
            @click="$emit('open', r.fate as EntryFilter, r.code)"
          >
            {{ number(r.items) }}</button><span class="text-xs leading-5 font-semibold text-madder">stays</span
          ><span>{{ reason(r.code) }}</span>
        </li>
      </ul>
    </template>
    <label v-if="canChoose && ticket.kinds.length > 1" class="mb-3 block text-xs"
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
        look="accent"
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
