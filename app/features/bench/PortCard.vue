<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { computed } from 'vue'
import type { TicketSummary, TodayView } from '#contracts/http/ticket.ts'
import { api, sentenceOf } from '../../composables/use-api.ts'
import { usePortNames } from '../../composables/use-port-names.ts'
import { ago, bytes, touchLine } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import RowMenu from '../today/RowMenu.vue'
import { standingOf } from '../../words/standing.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { common } from '../../words/common.ts'
import { portCard as said } from '../../words/bench.ts'

/** One port: what is in it, for which ticket, in which role, and what it waits for. */
const props = defineProps<{ port: TodayView['ports'][number]; ticket: TicketSummary | null; now: number }>()
const emit = defineEmits<{ changed: []; failed: [sentence: string]; callOff: [ticket: TicketSummary] }>()
const nameOf = usePortNames()
const states = {
  unseen: common.drawsCurrentNotSeen,
  ready: common.ready,
  giving: common.giving,
  taking: common.taking,
  waits: said.notReady,
  free: common.free,
}
const tones = {
  unseen: 'text-ochre',
  ready: 'text-verdigris',
  giving: 'text-slate',
  taking: 'text-slate',
  waits: 'text-ochre',
  free: 'text-faint',
}
const stateLine = computed(() => (props.port.touch ? touchLine(props.port.touch.say) : states[props.port.state]))
const partner = computed(() => (props.ticket && props.port.side ? props.ticket[props.port.side === 'old' ? 'new' : 'old'].port : null))
const role = computed(() => (props.port.side === null ? null : words.sides[props.port.side]))
async function run(ask: () => Promise<unknown>) {
  try {
    await ask()
    emit('changed')
  } catch (error) {
    emit('failed', sentenceOf(error))
  }
}
const mark = () =>
  run(() => api(calls.markPort, { params: { port: props.port.port }, body: { text: role.value ?? String(props.port.port) } }))
const take = (offer: { ticket: string; side: 'old' | 'new' }) =>
  run(() => api(calls.setRoles, { params: { number: offer.ticket }, body: { [`${offer.side}Serial`]: props.port.phone!.serial } }))
const key = 'rounded-[3px] border border-rule px-2 py-1 text-xs font-semibold hover:bg-row'
</script>

<template>
  <li
    class="flex min-h-[13.5rem] min-w-0 flex-col border p-3"
    :class="port.state === 'free' ? 'border-dashed border-rule' : 'border-t-[3px] border-rule border-t-ink bg-sheet'"
    :data-port="port.port"
    :data-state="port.state"
  >
    <div class="flex items-start justify-between">
      <strong class="font-head text-2xl leading-none">{{ role ?? (port.phone ? '—' : port.state === 'unseen' ? '?' : '') }}</strong>
      <span class="min-w-0 truncate text-right font-head text-2xl leading-none text-faint"
        ><span v-if="nameOf(port.port)" class="mr-1.5 font-body text-xs">{{ nameOf(port.port) }}</span
        ><span class="sr-only">{{ said.port }}{{ ' ' }}</span
        >{{ port.port }}</span
      >
    </div>
    <template v-if="port.phone">
      <p class="mt-1.5">
        <strong>{{ port.phone.model }}</strong>{{ ' ' }}
        <span class="text-soft">{{ words.platforms[port.phone.platform] }} {{ port.phone.version }}</span>
      </p>
      <p class="text-xs text-soft">{{ port.phone.serial }}</p>
      <p class="text-xs text-soft">
        {{ port.batteryPercent }}%{{ port.isCharging ? said.charging : ''
        }}<template v-if="port.freeBytes !== null">{{ said.free(bytes(port.freeBytes)) }}</template
        ><template v-if="port.temperatureC !== null && port.temperatureC >= 38"
          >, <strong class="text-ochre">{{ Math.round(port.temperatureC) }} °C</strong></template
        >
      </p>
      <p v-if="port.hasWorkArea" class="text-xs text-ochre">{{ said.workArea }}</p>
      <p v-if="ticket" class="mt-1.5 text-xs">
        <RowMenu class="float-right" :ticket="ticket" @call-off="emit('callOff', ticket)" />
        <NuxtLink :to="`/tickets/${ticket.number}`" class="font-semibold underline underline-offset-2">{{ ticket.number }}</NuxtLink>
        {{ ticket.customer }}, {{ words.stages[ticket.stage].toLowerCase()
        }}<template v-if="ticket.stage !== 'make-ready'">: {{ standingOf(ticket).short }}</template
        ><template v-if="partner">{{ said.withPort(partner) }}</template>
      </p>
      <p v-else class="mt-1.5 text-xs text-soft">{{ said.noTicketNamesIt }}</p>
      <p class="mt-auto pt-2 font-semibold first-letter:uppercase" :class="tones[port.state]" data-testid="port-says">
        {{ stateLine }}<span v-if="port.touch && port.touch.sinceMs > 0" class="font-normal">, {{ ago(port.touch.sinceMs, now) }}</span>
      </p>
      <div class="mt-2 flex flex-wrap gap-1.5">
        <SmallButton v-for="offer in port.offers" :key="offer.ticket" @click="take(offer)">{{
          said.itIs(offer.ticket, words.sides[offer.side])
        }}</SmallButton>
        <NuxtLink v-if="!port.ticket" :to="{ path: '/book-in', query: { port: String(port.port) } }" :class="key">{{
          said.bookItIn
        }}</NuxtLink>
        <SmallButton @click="mark">{{ said.showOnIt(role ?? port.port) }}</SmallButton>
      </div>
    </template>
    <p v-else class="mt-auto font-semibold" :class="tones[port.state]">
      {{ states[port.state] }}<span v-if="port.state === 'unseen'" class="block text-xs font-normal text-soft">{{ said.causes }}</span>
    </p>
  </li>
</template>
