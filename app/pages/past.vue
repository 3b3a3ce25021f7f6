<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { refDebounced } from '@vueuse/core'
import type { z } from 'zod'
import { calls } from '#contracts/http/calls.ts'
import type { routes } from '#contracts/http/routes.ts'
import type { PastRow, pastPage } from '#contracts/http/shop.ts'
import { outcomes } from '#contracts/http/sets.ts'
import SentenceBox from '../components/base/SentenceBox.vue'
import SmallButton from '../components/base/SmallButton.vue'
import VirtualList from '../components/base/VirtualList.vue'
import { api } from '../composables/use-api.ts'
import { usePages } from '../composables/use-pages.ts'
import CallOffDialog from '../features/ticket/CallOffDialog.vue'
import { useCallOff } from '../features/ticket/use-call-off.ts'
import AppShell from '../features/shell/AppShell.vue'
import { useSession } from '../stores/session.ts'
import { number, shortMoment } from '../words/say.ts'
import { outcomeWords } from '../words/settings.ts'
import { common } from '../words/common.ts'
import { pastPage as said } from '../words/past.ts'
import OldNew from '../components/base/OldNew.vue'

/** Past tickets and open ones: who worked on them, how they ended, and their figures, which stay after erasing. */
const session = useSession()
const zone = computed(() => session.session?.shop.zone ?? 'UTC')
const wish = reactive({
  number: '',
  serial: '',
  from: '',
  to: '',
  staff: '',
  model: '',
  outcome: '' as z.input<typeof routes.past.body>['outcome'],
})
const asked = refDebounced(
  computed(() => ({ ...wish })),
  200,
)
const staff = ref<readonly string[]>([])
onMounted(async () => (staff.value = (await api(calls.staff).catch(() => ({ staff: [] }))).staff.map(({ name }) => name)))
useHead({ title: said.tabTitle })
const { rows, page, sentence, more, refresh } = usePages<PastRow, z.output<typeof pastPage>, string>({
  of: [asked],
  fetch: (after, limit, signal) => api(calls.past, { body: { ...asked.value, after, limit }, signal }),
  rowsOf: (got) => got.rows,
  nextOf: (got) => got.next,
})
const { asks, askFor, callOff } = useCallOff(
  (text) => (sentence.value = text),
  () => void refresh(),
)
const columns = 'grid min-w-0 flex-1 grid-cols-[5.5rem_7rem_1fr_8.5rem_9rem] items-baseline gap-x-3 px-2 max-md:grid-cols-[5.5rem_1fr]'
const figures = (row: PastRow) => (row.read === 0 ? said.nothingRead : said.cameOver(number(row.cameOver), number(row.read)))
</script>

<template>
  <AppShell>
    <div class="flex h-full flex-col">
      <header class="border-b border-rule bg-panel px-6 py-3.5 max-md:px-3">
        <h1 class="text-xl">
          {{ said.pastTickets }}
          <span v-if="page" class="ml-1 font-body text-sm font-normal text-soft" data-testid="past-total">{{ number(page.total) }}</span>
        </h1>
        <form
          class="mt-2 grid grid-cols-[1fr_1.2fr_1fr_1fr_1fr_1fr_1.2fr] gap-2 max-lg:grid-cols-4 max-md:grid-cols-2"
          role="search"
          @submit.prevent
        >
          <label
            ><span class="text-xs text-soft">{{ said.number }}</span
            ><input v-model="wish.number" data-find class="field" type="search" autocomplete="off" maxlength="20"
          /></label>
          <label
            ><span class="text-xs text-soft">{{ said.serialOfPhone }}</span
            ><input v-model="wish.serial" class="field" type="search" autocomplete="off" maxlength="64"
          /></label>
          <label
            ><span class="text-xs text-soft">{{ said.model }}</span
            ><input v-model="wish.model" class="field" type="search" autocomplete="off" maxlength="60"
          /></label>
          <label
            ><span class="text-xs text-soft">{{ said.from }}</span
            ><input v-model="wish.from" class="field" type="date"
          /></label>
          <label
            ><span class="text-xs text-soft">{{ common.to }}</span
            ><input v-model="wish.to" class="field" type="date"
          /></label>
          <label
            ><span class="text-xs text-soft">{{ said.workedOnBy }}</span
            ><select v-model="wish.staff" class="field">
              <option value="">{{ said.anybody }}</option>
              <option v-for="name in staff" :key="name">{{ name }}</option>
            </select></label
          >
          <label
            ><span class="text-xs text-soft">{{ said.howItEnded }}</span
            ><select v-model="wish.outcome" class="field">
              <option value="">{{ said.any }}</option>
              <option v-for="code in outcomes" :key="code" :value="code">{{ outcomeWords[code] }}</option>
            </select></label
          >
        </form>
      </header>
      <div class="flex min-h-0 flex-1 flex-col px-6 py-3 max-md:px-3">
        <SentenceBox v-if="sentence" tone="bad" class="mb-3">{{ sentence }}</SentenceBox>
        <p v-if="page && page.total === 0" class="border border-rule bg-sheet p-6 text-soft">
          {{ said.noTicketAnswers(session.session?.shop.serialDays ?? '') }}
        </p>
        <template v-else-if="page">
          <div class="flex gap-2 border-b border-ink px-1 pb-1 text-xs text-soft max-md:hidden" aria-hidden="true">
            <div :class="columns">
              <span>{{ said.ticket }}</span><span>{{ common.bookedIn }}</span
              ><span>{{ said.oldNew }}</span
              ><span>{{ said.howItEnded }}</span
              ><span>{{ said.by }}</span>
            </div>
            <span class="w-[4.6rem] shrink-0" />
          </div>
          <VirtualList :count="rows.length" :row-height="52" :label="common.tickets" :key-of="(i) => rows[i]!.number" @more="more()">
            <template #default="{ index, stop }">
              <NuxtLink v-if="rows[index]" :to="`/tickets/${rows[index]!.number}`" :class="columns" v-bind="stop">
                <strong class="font-head">{{ rows[index]!.number }}</strong>
                <span class="text-soft max-md:hidden">{{ shortMoment(rows[index]!.bookedAt, zone) }}</span>
                <span
                  ><OldNew :old="rows[index]!.old" :now="rows[index]!.new" /><span class="block text-xs text-soft">{{
                    figures(rows[index]!)
                  }}</span></span
                >
                <span class="max-md:hidden">{{ outcomeWords[rows[index]!.outcome] }}</span>
                <span class="text-soft max-md:hidden"
                  >{{ rows[index]!.bookedBy
                  }}<span class="block text-xs">{{
                    rows[index]!.isErased ? said.erased : rows[index]!.handedBackAt ? '' : said.inShop
                  }}</span></span
                >
              </NuxtLink>
              <SmallButton
                v-if="rows[index]?.outcome === 'open' && !rows[index]!.isErased"
                class="shrink-0"
                :aria-label="said.callOff(rows[index]!.number)"
                @click="askFor(rows[index]!.number)"
                >{{ said.callOffMore }}</SmallButton><span v-else class="w-[4.6rem] shrink-0" />
            </template>
          </VirtualList>
        </template>
        <p v-else class="text-soft">{{ common.looking }}</p>
        <CallOffDialog v-if="asks" :open="true" :ticket="asks" @close="asks = null" @send="callOff" />
      </div>
    </div>
  </AppShell>
</template>
