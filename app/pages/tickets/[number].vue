<script setup lang="ts">
import type { z } from 'zod'
import { calls } from '#contracts/http/calls.ts'
import type { routes } from '#contracts/http/routes.ts'
import { computed, ref, watch } from 'vue'
import { useMediaQuery } from '@vueuse/core'
import { useRoute } from 'vue-router'
import SentenceBox from '../../components/base/SentenceBox.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import { useLive } from '../../composables/use-live.ts'
import LookBoard from '../../features/lockers/LookBoard.vue'
import ReadyBoard from '../../features/ready/ReadyBoard.vue'
import AppShell from '../../features/shell/AppShell.vue'
import BesideLine from '../../features/ticket/BesideLine.vue'
import CarryQuestions from '../../features/ticket/CarryQuestions.vue'
import CourseNotes from '../../features/ticket/CourseNotes.vue'
import LedgerList from '../../features/ticket/LedgerList.vue'
import LedgerTable from '../../features/ticket/LedgerTable.vue'
import MonthsDialog from '../../features/ticket/MonthsDialog.vue'
import { openedItems } from '../../features/ticket/opened.ts'
import ShowDialog from '../../features/ticket/ShowDialog.vue'
import StageRibbon from '../../features/ticket/StageRibbon.vue'
import { nextLineOf, standingOf } from '../../words/standing.ts'
import TicketAccount from '../../features/ticket/TicketAccount.vue'
import TicketHead from '../../features/ticket/TicketHead.vue'
import TicketPanel from '../../features/ticket/TicketPanel.vue'
import TouchNow from '../../features/ticket/TouchNow.vue'
import { provideSideNames } from '../../features/ticket/side-names.ts'
import { ofTicket } from '../../features/ticket/ticket-call.ts'
import { useCarry } from '../../features/ticket/use-carry.ts'
import { useOpened } from '../../features/ticket/use-opened.ts'
import { useReadyPick } from '../../features/ticket/use-ready-pick.ts'
import { useShownRow } from '../../features/ticket/use-shown-row.ts'
import { useTicket } from '../../features/ticket/use-ticket.ts'
import { useTicketActs } from '../../features/ticket/use-ticket-acts.ts'
import { useTickets } from '../../stores/tickets.ts'
import { clock, number as say } from '../../words/say.ts'
import { common } from '../../words/common.ts'
import { ticketPage as said } from '../../words/ticket.ts'

const route = useRoute()
const number = computed(() => String(route.params.number))
const { ticket, sentence, now, zone, stamp, canChoose } = useTicket(number)
provideSideNames(() => ticket.value ?? undefined)
const { busy, failure, act } = useTicketActs(number)
const { opened, stage: pressed, title, open, close, show: showStage } = useOpened()
const live = useLive()

/** The stage whose panel is shown: the ticket’s own, unless another was pressed. */
const stage = computed(() => pressed.value ?? ticket.value?.stage ?? 'book-in')
watch(
  () => ticket.value?.stage,
  (_, before) => {
    // who looks at the phones goes on looking at them, whatever they do
    if (before && pressed.value && pressed.value !== 'make-ready') showStage(null)
  },
)
/** While a phone is made ready, its needs take the account’s place. */
const isReadying = computed(() => {
  if (!ticket.value || ticket.value.erasedAt) return false
  // a phone that a copy is compared with is made ready on the look's own page
  const { isLook, old, forecasts } = ticket.value
  return isLook ? !old.isReady && forecasts.length === 0 : stage.value === 'make-ready'
})
const picked = useReadyPick(ticket)
const { row, pick } = useShownRow(ticket, stage, opened)
const account = ref<HTMLElement>()
function openAccount(kind: string) {
  pick(kind)
  account.value?.focus({ preventScroll: true })
}
const notYetChecked = computed(() => (ticket.value?.ledger ?? []).reduce((sum, r) => sum + r.notYetChecked, 0))
/** A list that scrolls by itself, and stays beside the ledger however far that is scrolled. */
const isList = computed(() => !ticket.value?.erasedAt && ['items', 'groups', 'joinings'].includes(opened.value?.what ?? ''))

const isAskingToShow = ref(false)
type ShowReason = z.input<typeof routes.show.body>['reason']
async function showNames(why: string) {
  useTickets().showAgain(number.value)
  if (await act('show', ofTicket(calls.show, { reason: why as ShowReason }))) isAskingToShow.value = false
}
function hide() {
  // gone from the page before anybody has answered
  useTickets().hideNow(number.value)
  return act('hide', ofTicket(calls.hide))
}
const { asks, leftOut, carry, no } = useCarry(ticket, act)

const standing = computed(() => (ticket.value ? standingOf(ticket.value) : null))
watch(
  () => standing.value?.line,
  (line) => line && live.say(`${number.value}. ${line}`),
  { immediate: true },
)
const tones = { good: 'text-verdigris', note: 'text-ochre', bad: 'text-madder', run: 'text-slate', plain: 'text-ink' }
useHead({ title: () => said.title(Boolean(ticket.value?.run), number.value, standing.value?.short ?? '') })
/** Too narrow for a row of figures, or its text too large: a list, a kind each. */
const scroller = ref<HTMLElement>()
const head = ref<InstanceType<typeof TicketHead>>()
// another stage begins at its top
watch(stage, () => scroller.value?.scrollTo({ top: 0 }))
const isNarrow = useMediaQuery('(max-width: 54em)')
</script>

<template>
  <AppShell>
    <SentenceBox v-if="sentence && !ticket" tone="bad" class="m-6"
      >{{ sentence }} <NuxtLink to="/" class="underline">{{ said.backToToday }}</NuxtLink></SentenceBox
    >
    <p v-else-if="!ticket" class="p-6 text-soft">{{ said.opening(number) }}</p>
    <div v-else class="flex flex-col md:h-full">
      <TicketHead ref="head" :ticket="ticket" :zone="zone" :now="now" :busy="busy" @act="act" />
      <StageRibbon v-if="!ticket.isLook" :ticket="ticket" :shown="stage" @show="showStage" />
      <TouchNow :ticket="ticket" :now="now" />
      <!-- one scroll for both: a panel has its own only where its list is virtual -->
      <div
        ref="scroller"
        class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_15.5rem] overflow-y-auto [scrollbar-gutter:stable] max-md:grid-cols-1 md:[container-type:size] xl:grid-cols-[minmax(0,1fr)_18.5rem]"
        data-testid="ticket-scroll"
        tabindex="-1"
      >
        <section class="relative min-w-0 px-3 py-4 xl:px-6" :aria-label="common.ledger" tabindex="-1">
          <div class="mb-3 flex flex-wrap items-baseline justify-between gap-3">
            <p class="font-head text-[1.05rem] font-semibold" :class="tones[standing!.tone]" data-testid="standing">
              {{ standing!.line }}
            </p>
            <p class="text-soft">{{ nextLineOf(ticket) }}</p>
          </div>
          <SentenceBox v-if="failure" tone="bad" class="mb-3">{{ failure.sentence }}</SentenceBox>
          <LookBoard
            v-if="ticket.isLook"
            :ticket="ticket"
            :busy="busy"
            @act="act"
            @open="(kind, filter) => open(openedItems(kind, filter))"
            @groups="(kind, by) => open({ what: 'groups', kind, side: 'old', by })"
            @months="(kind) => open({ what: 'months', kind })"
            @show="isAskingToShow = true"
          />
          <ReadyBoard v-if="isReadying" :ticket="ticket" :picked="picked" :now="now" @pick="(side, code) => (picked = { side, code })" />
          <component
            v-if="!ticket.isLook"
            :is="isNarrow ? LedgerList : LedgerTable"
            :class="{ 'mt-5': isReadying }"
            :rows="ticket.ledger"
            :opened="opened"
            :can-open="!ticket.erasedAt"
            :picked="row?.kind ?? ''"
            @open="(kind, filter) => (pick(kind), open(openedItems(kind, filter)))"
            @account="openAccount"
            @months="(kind) => open({ what: 'months', kind })"
          />
          <p v-if="notYetChecked > 0" class="mt-1.5 text-xs text-soft">
            {{ said.carriedOrChanged(say(notYetChecked)) }}
          </p>
          <p v-if="Object.keys(ticket.cannot).length > 0" class="mt-2 text-soft" data-testid="cannot">
            {{ said.cannotCross(ticket.cannot) }}
          </p>
          <BesideLine v-if="!ticket.isLook && !ticket.erasedAt" :ticket="ticket" @kinds="head?.askKinds()" />
          <CourseNotes v-if="ticket.notes.length > 0" :notes="ticket.notes" :zone="zone" />
          <div id="beside-the-account" class="mt-5 empty:hidden" />
          <div v-if="!isReadying && !ticket.isLook && row && row.new.first !== null" ref="account" class="mt-5" tabindex="-1">
            <TicketAccount :key="row.kind" :ticket="ticket" :row="row" :stamp="stamp" @open="open" @show="isAskingToShow = true" />
          </div>
          <p v-if="ticket.showingUntil" class="mt-4 flex items-center gap-3 border-l-4 border-ochre bg-ochre-pale px-3 py-2 text-ochre">
            {{ said.shownUntil(clock(ticket.showingUntil, zone)) }}
            <LinkButton @click="hide">{{ said.hideThemNow }}</LinkButton>
          </p>
        </section>
        <aside
          class="relative border-l border-rule bg-panel px-4 py-4 max-md:border-t max-md:border-l-0"
          :class="{ 'sticky top-0 h-[100cqh] overflow-hidden max-md:static max-md:h-[80vh]': isList }"
          :aria-label="said.panel"
          tabindex="-1"
        >
          <TicketPanel
            :ticket="ticket"
            :opened="opened"
            :title="title"
            :row="row"
            :stage="stage"
            :busy="busy"
            :zone="zone"
            :stamp="stamp"
            :can-choose="canChoose(opened?.kind)"
            :can-decide="canChoose()"
            :picked="picked"
            @act="act"
            @open="open"
            @close="close"
            @show="isAskingToShow = true"
            @carry="async () => (await carry()) && close()"
            @stage="showStage"
            @kinds="head?.askKinds()"
          />
        </aside>
      </div>
      <MonthsDialog
        v-if="opened?.what === 'months'"
        :ticket="number"
        :kind="opened.kind"
        @close="close"
        @month="(when) => open(openedItems(opened!.kind, 'all', { when }))"
      />
      <ShowDialog :open="isAskingToShow" :busy="busy === 'show'" @close="isAskingToShow = false" @show="showNames" />
      <CarryQuestions
        :ticket="ticket"
        :asks="asks"
        :left-out="leftOut"
        @no="no"
        @yes="async () => (await carry(true)) && close()"
        @back="(no(), showStage('make-ready'))"
      />
    </div>
  </AppShell>
</template>
