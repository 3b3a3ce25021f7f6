<script setup lang="ts">
import type { TodayView } from '#contracts/http/ticket.ts'
import { usePortNames } from '../../composables/use-port-names.ts'
import { useStations } from '../../composables/use-stations.ts'
import { touchLine } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { benchStrip as said } from '../../words/today.ts'

/** The ports, a row each bench; a pair of one ticket stands together where its ports do. */
defineProps<{ ports: TodayView['ports'] }>()
const nameOf = usePortNames()
const { byStation } = useStations()
const states = {
  unseen: common.drawsCurrentNotSeen,
  ready: common.ready,
  giving: common.giving,
  taking: common.taking,
  waits: '',
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
type Port = TodayView['ports'][number]
const stateOf = (port: Port) => (port.touch ? touchLine(port.touch.say) : port.state === 'waits' ? said.notReady : states[port.state])
</script>

<template>
  <div v-for="group in byStation(ports)" :key="group.code" class="mb-2 last:mb-0" :data-station="group.code">
    <h3 v-if="group.name" class="mb-1 text-xs text-soft">{{ group.name }}</h3>
    <ol class="grid grid-cols-8 gap-1.5 max-lg:grid-cols-4 max-md:grid-cols-2" :aria-label="group.heading || common.ports">
      <li
        v-for="port in group.ports"
        :key="port.port"
        class="flex min-h-[7.4rem] min-w-0 flex-col border p-2"
        :class="port.phone ? 'border-t-[3px] border-rule border-t-ink bg-sheet' : 'border-dashed border-rule'"
      >
        <div class="flex items-start justify-between gap-1">
          <strong v-if="port.side" class="font-head text-[1.05rem] leading-none">{{ words.sides[port.side] }}</strong>
          <span v-else class="text-faint">{{ port.phone ? said.noTicket : port.state === 'unseen' ? '?' : common.free }}</span>
          <span class="min-w-0 truncate text-right font-head text-faint" :title="nameOf(port.port)"
            ><span v-if="nameOf(port.port)" class="mr-1 font-body text-[0.7rem]">{{ nameOf(port.port) }}</span
            ><span class="sr-only">{{ said.port }}{{ ' ' }}</span
            >{{ port.port }}</span
          >
        </div>
        <template v-if="port.phone">
          <NuxtLink v-if="port.ticket" :to="`/tickets/${port.ticket}`" class="text-xs text-soft underline-offset-2 hover:underline">{{
            port.ticket
          }}</NuxtLink>
          <NuxtLink v-else-if="port.offers[0]" :to="`/tickets/${port.offers[0].ticket}`" class="text-xs underline"
            >{{ port.offers[0].ticket }}’s {{ words.sides[port.offers[0].side] }}?</NuxtLink
          >
          <NuxtLink v-else :to="{ path: '/book-in', query: { port: String(port.port) } }" class="text-xs underline">{{
            common.bookIn
          }}</NuxtLink>
          <span class="mt-1 truncate font-semibold" :title="port.phone.model">{{ port.phone.model }}</span>
          <span class="truncate text-xs text-soft">{{ words.platforms[port.phone.platform] }} {{ port.phone.version }}</span>
          <span
            class="mt-auto pt-1 text-xs leading-tight font-semibold first-letter:uppercase"
            :class="tones[port.state]"
            :data-state="port.state"
            :title="stateOf(port)"
            >{{ stateOf(port) }}</span
          >
        </template>
        <span v-else-if="port.state === 'unseen'" class="mt-auto text-xs leading-tight font-semibold text-ochre" data-state="unseen">{{
          common.drawsCurrentNotSeen
        }}</span>
      </li>
    </ol>
  </div>
</template>
