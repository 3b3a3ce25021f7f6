<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { SheetView, TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, ApiFailure } from '../../composables/use-api.ts'
import { columnsFor } from '../../features/ticket/ledger-columns.ts'
import { verdictWord } from '../../features/ticket/standing.ts'
import { number, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'

/** One A4 page: counts and reasons, no names of contacts. */
const route = useRoute()
const ofTicket = { number: String(route.params.number) }
const sheet = ref<SheetView | null>(null)
const sentence = ref('')
/** Columns that are empty for every kind fold away, as they do on the ticket. */
const columns = computed(() => columnsFor(sheet.value?.ticket.ledger ?? []))
const install = computed(() => sheet.value?.install ?? null)
onMounted(async () => {
  try {
    sheet.value = await api(routes.sheet, { params: ofTicket })
  } catch (error) {
    sentence.value = error instanceof ApiFailure ? error.sentence : 'Try again.'
  }
})
useHead({ title: `Sheet ${String(route.params.number)} · Corvend` })
const when = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'short', timeZone: sheet.value!.shop.zone }).format(new Date(iso))
type Reason = TicketView['reasons'][number]
/** By kind, so that equal reasons of two kinds are told apart. */
const byKind = (reasons: readonly Reason[]) =>
  sheet
    .value!.ticket.kinds.map((kind) => ({ kind, reasons: reasons.filter((r) => r.kind === kind) }))
    .filter((group) => group.reasons.length > 0)
const over = computed(() => byKind(sheet.value!.ticket.reasons.filter((r) => r.fate === 'changed' || r.fate === 'merged')))
const stayed = computed(() =>
  byKind(
    sheet.value!.ticket.reasons.filter((r) =>
      ['cannotCross', 'refused', 'unreadable', 'lost', 'pending', 'gone', 'undone', 'pushedOut'].includes(r.fate),
    ),
  ),
)
/** Erased, and signed before sheets were kept: only the counts remain. */
const isLost = computed(() => sheet.value!.isErased && !sheet.value!.signed)
/** What the new phone holds more than it should, or holds otherwise: named, though all else agrees. */
const more = computed(() =>
  sheet.value!.ticket.ledger.flatMap(({ kind, new: now }) =>
    (['double', 'leftBehind', 'cameOtherwise', 'editedThere'] as const)
      .filter((what) => now[what] > 0)
      .map((what) => ({ kind, n: now[what], filter: what === 'editedThere' ? 'editedNow' : what })),
  ),
)
const parts = computed(() => [
  {
    head: 'What changed on the way',
    groups: over.value,
    saysFate: false,
    none: isLost.value ? 'The reasons were erased with the data; the counts above remain.' : 'Nothing.',
  },
  {
    head: 'What did not come over, and why',
    groups: stayed.value,
    saysFate: true,
    none: isLost.value ? 'The reasons were erased with the data; the counts above remain.' : 'Everything chosen came over.',
  },
])
/** What is no row of the table above. */
const byHand = computed(() => [
  ...sheet
    .value!.ticket.ledger.filter(({ fates }) => fates.notChosen > 0)
    .map(({ kind, old, fates }) =>
      fates.notChosen === old.read + old.late - fates.unreadable - fates.cannotCross
        ? `${words.kinds[kind]}: left on the old phone as a whole, by choice (${number(fates.notChosen)})`
        : `${words.kinds[kind]}: ${number(fates.notChosen)} left on the old phone by choice`,
    ),
  ...sheet
    .value!.ticket.byHand.filter((kind) => !(kind in sheet.value!.ticket.cannot))
    .map((kind) => `${words.kinds[kind]}: carried by hand, not counted here`),
  ...Object.entries(sheet.value!.ticket.cannot)
    .filter(([kind]) => !sheet.value!.ticket.kinds.includes(kind))
    .map(([kind, rule]) => `${words.kinds[kind]}: can’t cross, ${reason(rule)}`),
])
const settings = computed(() =>
  (['old', 'new'] as const).flatMap((side) => sheet.value!.ticket.ready[side].putBack.map((item) => ({ side, ...item }))),
)
const exchanged = computed(() => sheet.value!.ticket.notes.filter((note) => note.what === 'new-exchanged'))
/** “2 short”, “1 over”, or both. */
const acceptedWords = ({ short, over }: { short: number; over: number }) =>
  [short > 0 ? `${number(short)} short` : '', over > 0 ? `${number(over)} over` : ''].filter(Boolean).join(' and ') ||
  'a count that is not met'
const print = () => {
  globalThis.print()
  if (!sheet.value!.isErased) void api(routes.printed, { params: ofTicket }).catch(() => undefined)
}
</script>

<template>
  <main class="mx-auto min-h-screen max-w-[205mm] bg-white p-10 text-[0.82rem] print:p-0 print:text-[0.66rem] print:leading-[1.28]">
    <div class="no-print mb-6 flex items-center gap-3">
      <AppButton look="accent" @click="print">Print the sheet</AppButton>
      <NuxtLink :to="`/tickets/${route.params.number}`" class="underline">Back to the ticket</NuxtLink>
    </div>
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <article v-if="sheet" data-testid="sheet">
      <header class="mb-5 flex print:mb-3 items-end justify-between border-b-[3px] border-double border-ink pb-3">
        <div>
          <p class="font-head text-xl font-semibold">{{ sheet.shop.name }}</p>
          <p class="text-soft">{{ sheet.shop.address }}</p>
        </div>
        <div class="text-right">
          <h1 class="text-xl">{{ sheet.ticket.number }}</h1>
          <p class="text-soft">{{ when(sheet.madeAt) }}</p>
        </div>
      </header>
      <dl class="mb-5 grid print:mb-2 print:grid-cols-[5rem_1fr_5rem_1fr] grid-cols-[7rem_1fr] gap-y-1">
        <dt class="text-soft">Customer</dt>
        <dd>{{ sheet.customer ? [sheet.customer.name, sheet.customer.phone].filter(Boolean).join(', ') : 'erased' }}</dd>
        <dt class="text-soft">Old phone</dt>
        <dd>
          {{ sheet.ticket.old.maker }}, {{ sheet.ticket.old.model }}, {{ words.platforms[sheet.ticket.old.platform] }}
          {{ sheet.ticket.old.version }}
        </dd>
        <dt class="text-soft">New phone</dt>
        <dd>
          {{ sheet.ticket.new.maker }}, {{ sheet.ticket.new.model }}, {{ words.platforms[sheet.ticket.new.platform] }}
          {{ sheet.ticket.new.version }}
        </dd>
        <dt class="text-soft">Done by</dt>
        <dd>{{ sheet.ticket.bookedBy }}</dd>
      </dl>
      <p v-if="sheet.ticket.restingAt" class="mb-1">
        Stopped on {{ when(sheet.ticket.restingAt) }}; both phones were given back. What is over stays over, and the work can be taken up
        again.
      </p>
      <p class="mb-3 font-head text-base font-semibold">
        {{
          sheet.ticket.mayHandOver || isLost
            ? 'Counted on both phones after carrying, and compared item by item.'
            : sheet.signed
              ? 'Signed with what stands: the counts below are not agreed.'
              : 'Interim sheet: the counts are not agreed yet.'
        }}
      </p>
      <p v-if="sheet.signed?.isVoid" class="mb-3 border-l-4 border-madder bg-madder-pale px-2.5 py-1.5 text-madder" data-testid="void">
        The phones were counted again since this was signed, and the figures are others than those below.
      </p>
      <p
        v-for="f in sheet.former"
        :key="f.digest"
        class="mb-3 border-l-4 border-ochre bg-ochre-pale px-2.5 py-1.5 text-ochre"
        data-testid="former"
      >
        The sheet signed on {{ when(f.at) }}, number {{ f.digest }}, is void since {{ when(f.voidedAt) }}: the phones were counted again,
        and the figures moved. This one takes its place.
      </p>
      <table class="mb-2 w-full border border-rule text-right text-[0.78rem]">
        <thead class="border-b border-ink align-bottom text-[0.7rem] text-soft">
          <tr>
            <th scope="col" class="px-1.5 py-1 text-left font-normal">Kind</th>
            <th v-for="c in columns" :key="c.key" scope="col" class="px-1 font-normal">{{ c.head }}</th>
            <th scope="col" class="px-1.5 text-left font-normal">Verdict</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in sheet.ticket.ledger" :key="row.kind">
            <th scope="row" class="px-1.5 py-2 text-left print:py-1">{{ words.kinds[row.kind] }}</th>
            <td v-for="c in columns" :key="c.key" class="px-1">
              <span :class="{ 'double-rule': c.key === 'last' && row.verdict.startsWith('agrees'), 'font-bold': c.isStrong }">{{
                c.of(row) === null ? '—' : number(c.of(row)!)
              }}</span>
            </td>
            <td class="min-w-[4.8rem] px-1.5 text-left text-[0.7rem] leading-tight font-semibold print:text-[0.62rem] print:leading-none">
              {{ verdictWord(row) }}
            </td>
          </tr>
        </tbody>
      </table>
      <p class="mb-5 text-xs text-soft print:mb-3">
        The count of the old phone is the sum of the columns after it, up to Not over; a column that is empty for every kind is left out.
        Expected is the first count of the new phone and what it took; who was joined with a contact that was there adds none.
      </p>
      <!-- one text in two columns: whichever list is longer, the page is used -->
      <div class="columns-2 gap-8 print:gap-6" data-testid="reasons">
        <template v-for="part in parts" :key="part.head">
          <h2 class="mb-1 break-after-avoid text-sm not-first:mt-3 print:not-first:mt-1.5">{{ part.head }}</h2>
          <template v-for="g in part.groups" :key="g.kind">
            <h3
              v-if="sheet.ticket.kinds.length > 1"
              class="mt-1 break-after-avoid font-body text-xs font-semibold text-soft print:mt-0.5 print:text-[0.66rem]"
            >
              {{ words.kinds[g.kind] }}
            </h3>
            <ul class="space-y-0.5 print:space-y-0">
              <li v-for="r in g.reasons" :key="`${r.fate}${r.code}`" class="flex break-inside-avoid gap-2">
                <strong class="w-8 shrink-0 text-right">{{ number(r.items) }}</strong><span
                  ><template v-if="part.saysFate">{{ words.filters[r.fate] }}: </template>{{ reason(r.code) }}</span
                >
              </li>
            </ul>
          </template>
          <p v-if="part.groups.length === 0" class="text-soft">{{ part.none }}</p>
        </template>
        <template v-if="more.length > 0">
          <h2 class="mt-3 mb-1 break-after-avoid text-sm print:mt-1.5">What else is on the new phone</h2>
          <ul class="space-y-0.5 print:space-y-0" data-testid="more">
            <li v-for="m in more" :key="`${m.kind} ${m.filter}`">
              <strong>{{ number(m.n) }}</strong> {{ m.n === 1 ? words.one[m.kind] : words.many[m.kind] }},
              {{ words.filters[m.filter]!.toLowerCase() }}:
              {{ words.meanings[m.filter] }}
            </li>
          </ul>
        </template>
        <template v-if="byHand.length > 0">
          <h2 class="mt-3 mb-1 break-after-avoid text-sm print:mt-1.5">Left and by hand</h2>
          <ul class="space-y-0.5">
            <li v-for="line in byHand" :key="line">{{ line }}</li>
          </ul>
        </template>
        <template v-if="settings.length > 0">
          <h2 class="mt-3 mb-1 break-after-avoid text-sm print:mt-1.5">
            {{ settings.some((s) => s.state === 'open') ? 'Still to be put back' : 'Settings put back' }}
          </h2>
          <ul class="space-y-0.5 print:space-y-0">
            <li v-for="s in settings" :key="`${s.side} ${s.code}`">
              <strong class="font-head">{{ s.side === 'old' ? 'OLD' : 'NEW' }}</strong> {{ s.title
              }}<template v-if="s.state === 'waived'">: left, as the customer wishes</template
              ><template v-else-if="s.state === 'open'">: not yet</template>
            </li>
          </ul>
        </template>
      </div>
      <section
        v-if="(install && install.apps > 0) || sheet.ticket.tied.open > 0"
        class="mt-4 flex break-inside-avoid items-start gap-4 print:mt-2"
        data-testid="install-list"
      >
        <!-- eslint-disable vue/no-v-html -- drawn by our own server from a link -->
        <div
          v-if="install?.qr"
          class="size-24 shrink-0 print:size-20"
          role="img"
          aria-label="Code that opens the list of apps to install"
          v-html="install.qr"
        />
        <!-- eslint-enable vue/no-v-html -->
        <div>
          <h2 class="mb-1 text-sm">Apps by hand</h2>
          <p v-if="install && install.apps > 0">
            {{ number(install.apps) }} {{ install.apps === 1 ? 'app is' : 'apps are' }} installed by hand from the new phone’s own
            store.<template v-if="install.qr">
              Point its camera at the code to open the list<template v-if="install.link">, or go to {{ install.link }}</template
              >.</template
            >
          </p>
          <p v-if="sheet.ticket.tied.open > 0" class="font-semibold">
            {{ number(sheet.ticket.tied.open) }} {{ sheet.ticket.tied.open === 1 ? 'app is' : 'apps are' }} tied to the old phone (bank,
            sign-in codes, wallet or chat account). Move {{ sheet.ticket.tied.open === 1 ? 'it' : 'each' }} by hand, in the app itself,
            before the old phone is wiped or given away.
          </p>
        </div>
      </section>
      <p v-for="note in exchanged" :key="note.at" class="mt-4">
        The {{ note.phone }} was given back as faulty on {{ when(note.at) }}; the counts are those of the {{ sheet.ticket.new.model }}.
      </p>
      <p v-for="a in sheet.ticket.accepted" :key="a.kind" class="mt-4">
        {{ a.by || 'The customer (name erased)' }} accepted {{ words.kinds[a.kind]!.toLowerCase() }}, {{ acceptedWords(a) }},
        {{ when(a.at) }}.
      </p>
      <footer class="mt-16 grid break-inside-avoid print:mt-7 grid-cols-2 gap-12">
        <div class="border-t border-ink pt-1">
          Customer<span v-if="sheet.signed">: {{ sheet.signed.by ?? 'name erased' }}, {{ when(sheet.signed.at) }}</span>
        </div>
        <div class="border-t border-ink pt-1">{{ sheet.shop.name }}</div>
      </footer>
      <p v-if="sheet.signed" class="mt-2 text-xs text-soft print:text-[0.6rem]" data-testid="digest">
        Kept as signed, number {{ sheet.signed.digest }}<template v-if="sheet.isErased">. Names were erased with the data.</template>
      </p>
    </article>
  </main>
</template>
