<script setup lang="ts">
import { computed, watch } from 'vue'
import SentenceBox from '../components/base/SentenceBox.vue'
import { useLive } from '../composables/use-live.ts'
import { useNow } from '../composables/use-now.ts'
import { useStations } from '../composables/use-stations.ts'
import { useToday } from '../composables/use-today.ts'
import CallOffDialog from '../features/ticket/CallOffDialog.vue'
import { useCallOff } from '../features/ticket/use-call-off.ts'
import PortCard from '../features/bench/PortCard.vue'
import AppShell from '../features/shell/AppShell.vue'
import { words } from '../words/words.ts'
import { common } from '../words/common.ts'
import { benchPage as said } from '../words/bench.ts'

const now = useNow()
const { store, sentence, look } = useToday()
useHead({ title: said.tabTitle })
const { asks, callOff } = useCallOff((said) => (sentence.value = said))
const ports = computed(() => store.today?.ports ?? [])
const { say } = useLive()
const { byStation, unseenLine } = useStations()
const line = computed(() => {
  const waits = ports.value.filter((p) => p.touch || p.state === 'unseen').length
  const used = ports.value.filter((p) => p.state !== 'free').length
  return used === 0 ? said.nothingPluggedIn : waits === 0 ? said.noneWaits(used, ports.value.length) : said.someWait(waits, used)
})
watch(line, (now) => say(now))
/** Phones of open tickets that stand in no port. */
const away = computed(() =>
  (store.today?.tickets ?? [])
    .filter((t) => !t.handedBackAt && !t.restingAt)
    .flatMap((t) =>
      [t.old, t.new]
        .filter((p) => p.place === 'bench' && p.port === null)
        .map((p) => ({ number: t.number, side: p.side, model: p.model, serial: p.serial })),
    ),
)
const ticketOf = (number: string | null) => store.today?.tickets.find((t) => t.number === number) ?? null
</script>

<template>
  <AppShell>
    <header class="border-b border-rule bg-panel px-6 py-3.5">
      <h1 class="text-xl">
        {{ common.bench }} <span class="ml-1 font-body text-sm font-normal text-soft">{{ line }}</span>
      </h1>
    </header>
    <SentenceBox v-if="sentence" tone="bad" class="mx-6 mt-4">{{ sentence }}</SentenceBox>
    <SentenceBox v-if="store.today && unseenLine(store.today)" tone="note" class="mx-6 mt-4">{{ unseenLine(store.today) }}</SentenceBox>
    <template v-for="group in byStation(ports)" :key="group.code">
      <h2 v-if="group.heading" class="px-6 pt-4 text-[0.95rem]">{{ group.heading }}</h2>
      <ol class="grid grid-cols-2 gap-3.5 px-6 py-5 lg:grid-cols-4" :aria-label="group.heading || common.ports">
        <PortCard
          v-for="port in group.ports"
          :key="port.port"
          :port="port"
          :ticket="ticketOf(port.ticket)"
          :now="now"
          @changed="look"
          @failed="(text) => (sentence = text)"
          @call-off="(ticket) => (asks = ticket)"
        />
      </ol>
    </template>
    <CallOffDialog v-if="asks" :open="true" :ticket="asks" @close="asks = null" @send="callOff" />
    <section v-if="away.length > 0" class="px-6 pb-6" aria-labelledby="away">
      <h2 id="away" class="mb-2 text-[0.95rem]">{{ said.awaitedOnBench }}</h2>
      <ul class="border border-rule bg-sheet">
        <li v-for="a in away" :key="`${a.number} ${a.side}`" class="flex gap-4 border-b border-rule px-3 py-1.5 last:border-0">
          <strong class="w-12 font-head">{{ words.sides[a.side] }}</strong><NuxtLink
            :to="`/tickets/${a.number}`"
            class="font-head font-semibold underline underline-offset-2"
            >{{ a.number }}</NuxtLink
          ><span>{{ a.model }}</span
          ><span class="text-soft">{{ a.serial ?? said.namedByItsModel }}</span>
        </li>
      </ul>
    </section>
  </AppShell>
</template>
