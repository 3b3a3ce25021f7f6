<script setup lang="ts">
import type { z } from 'zod'
import { routes } from '#contracts/http/routes.ts'
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { toast } from 'vue-sonner'
import type { EntryFilter } from '#contracts/http/ledger.ts'
import type { Stage } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { ApiFailure } from '../../composables/use-api.ts'
import { useEvents } from '../../composables/use-events.ts'
import { useNow } from '../../composables/use-now.ts'
import AppShell from '../../features/shell/AppShell.vue'
import ItemsPanel from '../../features/ticket/ItemsPanel.vue'
import type { Column } from '../../features/ticket/ledger-columns.ts'
import FiguresTable from '../../features/ticket/FiguresTable.vue'
import GroupsPanel from '../../features/ticket/GroupsPanel.vue'
import { nothingMore, type GroupedBy, type Opened, type OpenedGroups } from '../../features/ticket/opened.ts'
import JoiningsPanel from '../../features/ticket/JoiningsPanel.vue'
import OwnCountPanel from '../../features/ticket/OwnCountPanel.vue'
import LedgerTable from '../../features/ticket/LedgerTable.vue'
import AccountTable from '../../features/ticket/AccountTable.vue'
import ShowDialog from '../../features/ticket/ShowDialog.vue'
import StagePanel from '../../features/ticket/StagePanel.vue'
import StageRibbon from '../../features/ticket/StageRibbon.vue'
import MonthsDialog from '../../features/ticket/MonthsDialog.vue'
import AppsBoard from '../../features/apps/AppsBoard.vue'
import { mayChoose, standingOf } from '../../features/ticket/standing.ts'
import TouchNow from '../../features/ticket/TouchNow.vue'
import TicketHead from '../../features/ticket/TicketHead.vue'
import { ofKind, ofTicket } from '../../features/ticket/ticket-call.ts'
import { useTicketActs } from '../../features/ticket/use-ticket-acts.ts'
import { useSession } from '../../stores/session.ts'
import { useTickets } from '../../stores/tickets.ts'
import ReadyBoard from '../../features/ready/ReadyBoard.vue'
import CourseNotes from '../../features/ticket/CourseNotes.vue'
import { clock, items, itemsOf, number as say, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'

const route = useRoute()
const number = computed(() => String(route.params.number))
const store = useTickets()
const session = useSession()
const now = useNow()
const ticket = computed(() => store.byNumber[number.value])
const zone = computed(() => session.session?.shop.zone ?? 'Europe/London')
const sentence = ref('')
const { busy, failure, act } = useTicketActs(number)

async function look() {
  try {
    await store.loadTicket(number.value)
    sentence.value = ''
  } catch (error) {
    sentence.value = error instanceof ApiFailure ? error.sentence : 'Try again.'
  }
}
onMounted(look)
useEvents((event) => event.what === 'bench' || event.ticket === number.value, look)

// room on the new phone is part of the plan, and moves without anybody touching the ticket
watch(
  () => ticket.value?.new.freeBytes,
  (now, before) => {
    if (before !== undefined && now !== before && ticket.value?.plan && !ticket.value.run) void look()
  },
)

/** The stage whose panel is shown: the ticket's own, unless another was pressed. */
const pressed = ref<Stage | null>(null)
const shown = computed(() => pressed.value ?? ticket.value?.stage ?? 'book-in')
watch(
  () => ticket.value?.stage,
  () => {
    // who looks at the phones goes on looking at them, whatever they do
    if (pressed.value !== 'make-ready') pressed.value = null
  },
)
/** While a phone is made ready, its needs take the account's place. */
const isReadying = computed(() => ticket.value && !ticket.value.erasedAt && ['book-in', 'make-ready'].includes(shown.value))
const picked = ref<{ side: 'old' | 'new'; code: string } | null>(null)
// what was looked at and is met now gives way to what comes next
watch(
  () => picked.value && ticket.value?.ready[picked.value.side].needs.find((need) => need.code === picked.value!.code)?.state,
  (state, before) => {
    if (before && state && ['met', 'ticked', 'waived'].includes(state) && !['met', 'ticked', 'waived'].includes(before)) picked.value = null
  },
)

/** The kind whose account and panel are shown: the one that was pressed, else the first that differs or waits. */
const pickedKind = ref<string | null>(null)
/** The one shown last: what was chosen of it never puts another under the pointer. */
const shownKind = ref<string | null>(null)
const row = computed(() => {
  const rows = ticket.value?.ledger ?? []
  return (
    rows.find((r) => r.kind === pickedKind.value) ??
    (shown.value === 'choose' ? rows.find((r) => r.kind === shownKind.value) : undefined) ??
    rows.find((r) => r.verdict === 'differs') ??
    rows.find((r) => r.fates.pending > 0) ??
    rows[0]
  )
})
watch(
  () => row.value?.kind,
  (kind) => (shownKind.value = kind ?? null),
)
const notYetChecked = computed(() => (ticket.value?.ledger ?? []).reduce((sum, r) => sum + r.notYetChecked, 0))
const totals = computed(() => {
  const rows = ticket.value?.ledger ?? []
  return { old: rows.map((r) => ({ kind: r.kind, n: r.old.read })), new: rows.map((r) => ({ kind: r.kind, n: r.new.first ?? 0 })) }
})
const open = ref<Opened | null>(null)
const groups = ref<OpenedGroups | null>(null)
/** The kind whose people on both phones are open. */
const joinings = ref<string | null>(null)
function closePanels() {
  joinings.value = null
  open.value = null
  groups.value = null
  ownSide.value = null
}
function openGroups(side: 'old' | 'new', by: GroupedBy) {
  const kind = row.value!.kind
  closePanels()
  groups.value = { kind, side, by }
}
/** Items of a slice, of the side whose slices were open; closing them goes back to the slices. */
function openSlice({ group, when, title }: { group: string; when: string; title: string }) {
  const { kind, side } = groups.value!
  const filter = side === 'old' ? 'all' : row.value!.new.last === null ? 'first' : 'last'
  open.value = { ...nothingMore, kind, column: 'slice', filter, group, when, groupTitle: title }
}
function openSum(side: 'old' | 'new', facet: string) {
  const kind = row.value!.kind
  closePanels()
  open.value = {
    ...nothingMore,
    kind,
    column: 'sum',
    filter: side === 'old' ? 'all' : row.value!.new.last === null ? 'first' : 'last',
    facet,
  }
}
/** A list that scrolls by itself, and stays beside the ledger however far that is scrolled. */
const isList = computed(() => !ticket.value?.erasedAt && Boolean((open.value && openRow.value) || groups.value || joinings.value))
const openRow = computed(() => ticket.value?.ledger.find((row) => row.kind === open.value?.kind))
const openColumn = (kind: string, column: Column) => {
  pickedKind.value = kind
  closePanels()
  open.value = { ...nothingMore, kind, column: column.key, filter: column.opens! }
}
function openDifference(kind: string, filter: EntryFilter) {
  pickedKind.value = kind
  closePanels()
  open.value = { ...nothingMore, kind, column: filter, filter }
}
const openAccount = (kind: string) => {
  pickedKind.value = kind
  account.value?.focus()
}
/** Another count of what is open; a slice that is open stays. */
const openFilter = (filter: EntryFilter, reason = '') =>
  (open.value = { ...(open.value ?? nothingMore), kind: open.value?.kind ?? row.value!.kind, column: filter, filter, reason })
/** The kind whose months are compared. */
const months = ref<string | null>(null)
function openMonth(when: string) {
  const kind = months.value!
  pickedKind.value = kind
  months.value = null
  closePanels()
  open.value = { ...nothingMore, kind, column: 'slice', filter: 'all', when }
}
/** The phone whose own count is taken apart. */
const ownSide = ref<'old' | 'new' | null>(null)
const account = ref<HTMLElement>()
const stamp = computed(() =>
  ticket.value ? ticket.value.ledger.flatMap((r) => Object.values(r.fates)).reduce((sum, n, i) => sum * 31 + n * (i + 1), 7) % 1e9 : 0,
)
const canChoose = computed(() => ticket.value !== undefined && mayChoose(ticket.value))

// showing ends by itself: what is on the page goes then, too
watch(now, (at) => {
  if (ticket.value?.showingUntil && Date.parse(ticket.value.showingUntil) <= at) void look()
})
const isAskingToShow = ref(false)
type ShowReason = z.input<typeof routes.show.body>['reason']
async function show(reason: string) {
  store.showAgain(number.value)
  if (await act('show', ofTicket(routes.show, { reason: reason as ShowReason }))) isAskingToShow.value = false
}
function hide() {
  // gone from the page before anybody has answered
  store.hideNow(number.value)
  return act('hide', ofTicket(routes.hide))
}
const isAskingRoles = ref(false)
/** Kinds of which nothing is chosen though something is there: asked about once before anything is written. */
const isAskingLeft = ref(false)
const leftOut = computed(() =>
  (ticket.value?.ledger ?? []).filter(({ fates }) => fates.notChosen > 0 && fates.pending === 0 && fates.alreadyThere === 0),
)
async function carry(confirmRoles = false) {
  const seen = Object.fromEntries(ticket.value!.forecasts.map((f) => [f.kind, f.seen]))
  if (ticket.value!.needsExchangeAnswer && !confirmRoles) {
    isAskingRoles.value = true
    return
  }
  isAskingRoles.value = false
  if (leftOut.value.length > 0 && !isAskingLeft.value && !ticket.value!.areRolesFrozen) {
    isAskingLeft.value = true
    return
  }
  isAskingLeft.value = false
  closePanels()
  await act('carry', ofTicket(routes.carry, { seen, confirmRoles }))
}
const choose = (key: string, isChosen: boolean) =>
  act('choose', ofKind(routes.choose, open.value!.kind, { choice: 'some', mode: 'add', set: [{ key, isChosen }] }))

const standing = computed(() => (ticket.value ? standingOf(ticket.value) : null))
/** Before the sheet is signed, what was changed for the move is put back. */
const nextLine = computed(() => {
  const open = ticket.value
    ? [...ticket.value.ready.old.putBack, ...ticket.value.ready.new.putBack].filter((item) => item.state === 'open').length
    : 0
  if (ticket.value?.stage === 'hand-back' && !ticket.value.signedAt && open > 0)
    return `Next: put ${open} ${open === 1 ? 'setting' : 'settings'} back`
  return standing.value?.next ?? ''
})
const tones = { good: 'text-verdigris', note: 'text-ochre', bad: 'text-madder', run: 'text-slate', plain: 'text-ink' }
useHead({ title: () => `${ticket.value?.run ? '● ' : ''}${number.value} ${standing.value?.short ?? ''} · Corvend` })
watch(
  () => ticket.value?.run?.id,
  (id, before) => {
    if (before && !id && ticket.value?.lastRun?.type === 'check-off') toast(`${number.value}: ${standing.value?.line}`)
  },
)
function backToMakeReady() {
  isAskingRoles.value = false
  pressed.value = 'make-ready'
}
</script>

<template>
  <AppShell>
    <SentenceBox v-if="sentence && !ticket" tone="bad" class="m-6"
      >{{ sentence }} <NuxtLink to="/" class="underline">Back to Today</NuxtLink></SentenceBox
    >
    <p v-else-if="!ticket" class="p-6 text-soft">Opening {{ number }}…</p>
    <div v-else class="flex h-full flex-col">
      <TicketHead :ticket="ticket" :zone="zone" :now="now" :busy="busy" @act="act" />
      <StageRibbon
        :ticket="ticket"
        :shown="shown"
        @show="
          (stage) => {
            pressed = stage
            closePanels()
          }
        "
      />
      <TouchNow :ticket="ticket" :now="now" />
      <!-- one scroll for both: a panel has its own only where its list is virtual -->
      <div
        class="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_15.5rem] overflow-y-auto [container-type:size] [scrollbar-gutter:stable] xl:grid-cols-[minmax(0,1fr)_18.5rem]"
        data-testid="ticket-scroll"
        tabindex="-1"
      >
        <section class="relative min-w-0 px-3 py-4 xl:px-6" aria-label="Ledger">
          <div class="mb-3 flex flex-wrap items-baseline justify-between gap-3">
            <p class="font-head text-[1.05rem] font-semibold" :class="tones[standing!.tone]" role="status" data-testid="standing">
              {{ standing!.line }}
            </p>
            <p class="text-soft">{{ nextLine }}</p>
          </div>
          <SentenceBox v-if="failure" tone="bad" class="mb-3">{{ failure.sentence }}</SentenceBox>
          <ReadyBoard v-if="isReadying" :ticket="ticket" :picked="picked" :now="now" @pick="(side, code) => (picked = { side, code })" />
          <LedgerTable
            :class="{ 'mt-5': isReadying }"
            :rows="ticket.ledger"
            :open="open"
            :can-open="!ticket.erasedAt"
            :picked="row?.kind ?? ''"
            @open="openColumn"
            @account="openAccount"
            @months="(kind) => (months = kind)"
            @difference="openDifference"
          />
          <p v-if="notYetChecked > 0" class="mt-1.5 text-xs text-soft">
            {{ say(notYetChecked) }} carried or changed, not yet checked on the new phone.
          </p>
          <p v-if="Object.keys(ticket.cannot).length > 0" class="mt-2 text-soft" data-testid="cannot">
            Can’t cross between these phones:
            {{
              Object.entries(ticket.cannot)
                .map(([kind, rule]) => `${words.many[kind]} (${reason(rule)})`)
                .join('; ')
            }}.
          </p>
          <CourseNotes v-if="ticket.notes.length > 0" :notes="ticket.notes" :zone="zone" />
          <div id="beside-the-account" class="mt-5 empty:hidden" />
          <div v-if="!isReadying && row && row.new.first !== null" ref="account" class="mt-5" tabindex="-1">
            <h2 class="mb-2 text-[0.95rem]">
              The account<template v-if="ticket.ledger.length > 1"> of {{ words.many[row.kind] }}</template>
              <span class="ml-2 font-body text-xs font-normal text-soft"
                >what each count is the sum of, against the phones’ own counts</span
              >
            </h2>
            <AccountTable
              :row="row"
              :can-open="!ticket.erasedAt"
              @open="(f) => openFilter(f)"
              @own="
                (side) => {
                  closePanels()
                  ownSide = side
                }
              "
            />
            <FiguresTable :row="row" :can-open="!ticket.erasedAt" @groups="openGroups" @sum="openSum" />
            <AppsBoard
              v-if="row.kind === 'apps' && !ticket.erasedAt"
              :ticket="number"
              :stamp="[stamp, ticket.showingUntil, ticket.tied.open]"
              :can-choose="!ticket.run && !ticket.signedAt"
              :model="ticket.new.model"
              :showing-until="ticket.showingUntil"
              @show="isAskingToShow = true"
            />
          </div>
          <p v-if="ticket.showingUntil" class="mt-4 flex items-center gap-3 border-l-4 border-ochre bg-ochre-pale px-3 py-2 text-ochre">
            Names are shown to you until {{ clock(ticket.showingUntil, zone) }}.
            <button type="button" class="font-semibold underline" @click="hide">Hide them now</button>
          </p>
        </section>
        <aside
          class="relative border-l border-rule bg-panel px-4 py-4"
          :class="{ 'sticky top-0 h-[100cqh] overflow-hidden': isList }"
          aria-label="Panel"
        >
          <ItemsPanel
            v-if="open && openRow && !ticket.erasedAt"
            :ticket="number"
            :kind="open.kind"
            :filter="open.filter"
            :reason="open.reason"
            :facet="open.facet"
            :group="open.group"
            :group-title="open.groupTitle"
            :when="open.when"
            :row="openRow"
            :can-choose="canChoose"
            :showing-until="ticket.showingUntil"
            :stamp="stamp"
            @close="open = null"
            @whole="open = { ...open!, group: '', when: '', groupTitle: '' }"
            @filter="(f) => openFilter(f)"
            @show="isAskingToShow = true"
            @choose="choose"
            @slice="(slice) => act('choose', ofKind(routes.choose, open!.kind, { choice: 'some', mode: 'add', slice }))"
          />
          <GroupsPanel
            v-else-if="groups && !ticket.erasedAt"
            :ticket="number"
            :open="groups"
            :can-choose="canChoose"
            :showing-until="ticket.showingUntil"
            :stamp="stamp"
            @close="groups = null"
            @by="(by) => (groups = { ...groups!, by })"
            @show="isAskingToShow = true"
            @items="openSlice"
            @slice="(slice) => act('choose', ofKind(routes.choose, groups!.kind, { choice: 'some', mode: 'add', slice }))"
          />
          <JoiningsPanel
            v-else-if="joinings && !ticket.erasedAt"
            :ticket="number"
            :kind="joinings"
            :can-decide="canChoose"
            :can-undo="Boolean(ticket.areRolesFrozen && !ticket.run && !ticket.signedAt)"
            :showing-until="ticket.showingUntil"
            :stamp="stamp"
            :busy="busy"
            @close="joinings = null"
            @show="isAskingToShow = true"
            @act="act"
          />
          <OwnCountPanel
            v-else-if="ownSide && row"
            :ticket="ticket"
            :row="row"
            :side="ownSide"
            @close="ownSide = null"
            @open="(f) => openFilter(f)"
            @sum="(facet) => openSum(ownSide!, facet)"
          />
          <StagePanel
            v-else-if="row"
            :ticket="ticket"
            :row="row"
            :stage="shown"
            :busy="busy"
            :zone="zone"
            :picked="picked"
            @act="act"
            @open="openFilter"
            @groups="(by) => openGroups('old', by)"
            @joinings="
              () => {
                const { kind } = row!
                closePanels()
                joinings = kind
              }
            "
            @show="isAskingToShow = true"
            @carry="carry()"
            @choose="pressed = 'choose'"
          />
        </aside>
      </div>
      <MonthsDialog v-if="months" :ticket="number" :kind="months" @close="months = null" @month="openMonth" />
      <ShowDialog :open="isAskingToShow" :busy="busy === 'show'" @close="isAskingToShow = false" @show="show" />
      <AppDialog :open="isAskingRoles" title="Are the phones the right way round?" @close="isAskingRoles = false">
        <p class="mb-3">
          The phone named <strong>NEW</strong>, the {{ ticket.new.model }} on port {{ ticket.new.port }}, holds {{ itemsOf(totals.new) }}.
          The <strong>OLD</strong> one, the {{ ticket.old.model }}<template v-if="ticket.old.port"> on port {{ ticket.old.port }}</template
          >, holds {{ itemsOf(totals.old) }}.
        </p>
        <div class="flex flex-wrap gap-2">
          <AppButton look="accent" @click="backToMakeReady">No: go back to Make ready</AppButton>
          <AppButton look="danger" @click="carry(true)">Yes: carry to the {{ ticket.new.model }} on port {{ ticket.new.port }}</AppButton>
        </div>
      </AppDialog>
      <AppDialog
        :open="isAskingLeft"
        :title="`Without ${leftOut.map((r) => words.many[r.kind]).join(' and ')}?`"
        @close="isAskingLeft = false"
      >
        <p class="mb-3">
          Nothing is chosen of {{ leftOut.map((r) => items(r.kind, r.fates.notChosen)).join(' and ') }}. They stay on the OLD
          {{ ticket.old.model }}, and the sheet says so.
        </p>
        <div class="flex flex-wrap gap-2">
          <AppButton look="accent" @click="isAskingLeft = false">No: choose again</AppButton>
          <AppButton look="danger" @click="carry(true)">Yes: carry without them</AppButton>
        </div>
      </AppDialog>
    </div>
  </AppShell>
</template>
