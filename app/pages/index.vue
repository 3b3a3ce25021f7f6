<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { searcherFor } from '#core/text/search.ts'
import SentenceBox from '../components/base/SentenceBox.vue'
import { useNow } from '../composables/use-now.ts'
import { useStations } from '../composables/use-stations.ts'
import { useToday } from '../composables/use-today.ts'
import AppShell from '../features/shell/AppShell.vue'
import BenchStrip from '../features/today/BenchStrip.vue'
import TicketTable from '../features/today/TicketTable.vue'
import { useSession } from '../stores/session.ts'
import { ago, longDay, touchLine } from '../words/say.ts'
import { common } from '../words/common.ts'
import { daysLeft } from '../features/lockers/copy-figures.ts'
import { endingSoon, lockersPage } from '../words/lockers.ts'
import { todayPage as said } from '../words/today.ts'

const session = useSession()
const router = useRouter()
const now = useNow()
const { store, sentence } = useToday()
const { stations, unseenLine } = useStations()
const wanted = ref('')
const zone = computed(() => session.session?.shop.zone ?? 'Europe/London')
useHead({ title: said.tabTitle })

const found = computed(() => {
  const isFound = searcherFor(wanted.value)
  return (store.today?.tickets ?? []).filter((t) =>
    isFound([t.number, t.customer, t.old.model, t.new.model, t.old.serial, t.new.serial].filter(Boolean).join(' ')),
  )
})
const touches = computed(() => (store.today?.ports ?? []).filter((port) => port.touch))
const openTickets = computed(() => (store.today?.tickets ?? []).filter((t) => !t.handedBackAt))
const summary = computed(() => {
  const late = openTickets.value.filter((t) => Date.parse(t.promisedAt) < now.value).length
  const n = openTickets.value.length
  return said.open(n, late === 0 ? said.allWithinTheirPromise : said.late(late))
})
const openFirst = () => found.value[0] && router.push(`/tickets/${found.value[0].number}`)
const today = computed(() => longDay(now.value, zone.value))
</script>

<template>
  <AppShell>
    <header class="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-rule bg-panel px-6 py-3.5 max-md:px-3">
      <h1 class="text-xl">
        {{ common.today }} <span class="ml-1 font-body text-sm font-normal text-soft">{{ today }}</span>
      </h1>
      <label class="max-w-sm min-w-56 flex-1">
        <span class="sr-only">{{ said.find }}</span>
        <input
          data-find
          v-model="wanted"
          class="field"
          type="search"
          :placeholder="said.findHint"
          @keydown.enter="openFirst"
          @keydown.esc="wanted = ''"
        />
      </label>
      <span class="ml-auto text-soft">{{ summary }}</span>
      <NuxtLink to="/book-in" class="rounded-[3px] border border-ink bg-ink px-4 py-2 font-semibold text-sheet">{{
        common.bookIn
      }}</NuxtLink>
    </header>
    <section class="border-b border-rule bg-panel px-6 pt-3 pb-4 max-md:px-3" aria-labelledby="bench">
      <div class="mb-2 flex items-baseline justify-between">
        <h2 id="bench" class="text-[0.95rem]">{{ stations.length > 1 ? said.benches : common.bench }}</h2>
        <span v-if="store.today" class="text-xs text-soft">{{
          said.portsInUse(store.today.ports.filter((p) => p.phone).length, store.today.ports.length)
        }}</span>
      </div>
      <SentenceBox v-if="store.today && unseenLine(store.today)" tone="note">{{ unseenLine(store.today) }}</SentenceBox>
      <BenchStrip v-if="store.today" :ports="store.today.ports" />
      <p v-else class="text-soft">{{ said.lookingAtPorts }}</p>
    </section>
    <section
      v-if="touches.length > 0"
      class="flex flex-wrap items-center gap-3 border-b border-ochre/30 bg-ochre-pale px-6 py-2.5"
      aria-labelledby="touch"
    >
      <h2 id="touch" class="text-[0.95rem] text-ochre">{{ common.touchNow }}</h2>
      <NuxtLink
        v-for="port in touches"
        :key="port.port"
        :to="port.ticket ? `/tickets/${port.ticket}` : { path: '/book-in', query: { port: String(port.port) } }"
        class="rounded-[3px] border border-ochre/50 bg-sheet px-2.5 py-1 font-semibold text-ochre"
      >
        {{ port.side ? (port.side === 'old' ? said.oldOnPort : said.newOnPort) : common.port }} {{ port.port }}:
        {{ touchLine(port.touch!.say) }},
        {{ ago(port.touch!.sinceMs, now) }}
      </NuxtLink>
    </section>
    <section
      v-if="store.today && store.today.endingCopies.length > 0"
      class="flex flex-wrap items-center gap-3 border-b border-rule bg-panel px-6 py-2.5"
      aria-labelledby="ending"
    >
      <h2 id="ending" class="text-[0.95rem]">{{ endingSoon.title }}</h2>
      <NuxtLink
        v-for="copy in store.today.endingCopies"
        :key="copy.id"
        to="/lockers"
        class="rounded-[3px] border border-rule bg-sheet px-2.5 py-1"
      >
        {{ endingSoon.one(copy.id, copy.customer ?? lockersPage.noName, lockersPage.ends(daysLeft(copy.keepUntil, now))) }}
      </NuxtLink>
    </section>
    <section class="px-6 py-4 max-md:px-3" aria-labelledby="tickets">
      <div class="mb-2 flex items-baseline justify-between">
        <h2 id="tickets" class="text-[0.95rem]">{{ common.tickets }}</h2>
        <span class="text-xs text-soft">{{ said.byPromise }}</span>
      </div>
      <SentenceBox v-if="sentence" tone="bad" class="mb-3">{{ sentence }}</SentenceBox>
      <TicketTable v-if="found.length > 0" :tickets="found" :zone="zone" :now="now" @refused="(said) => (sentence = said)" />
      <p v-else-if="store.today && wanted" class="border border-rule bg-sheet p-6 text-soft">{{ said.noMatch }}</p>
      <p v-else-if="store.today" class="border border-rule bg-sheet p-6 text-soft">
        {{ said.noTicketYet }} <NuxtLink to="/book-in" class="underline">{{ said.bookFirst }}</NuxtLink>.
      </p>
    </section>
  </AppShell>
</template>
