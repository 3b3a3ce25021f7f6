<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { calls } from '#contracts/http/calls.ts'
import type { CrossingView } from '#contracts/http/ready.ts'
import type { BookingView, PhoneOnTicket, TicketView } from '#contracts/http/ticket.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import { judgeIntake } from '#core/phones/intake.ts'
import AppButton from '../../components/base/AppButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { api, sentenceOf } from '../../composables/use-api.ts'
import CallOffButton from '../../features/ticket/CallOffButton.vue'
import { canCallOff } from '../../features/ticket/use-call-off.ts'
import { useSession } from '../../stores/session.ts'
import { longMoment, reason } from '../../words/say.ts'
import { onPaper, sideName } from '../../words/copy-line.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { receiptPage as said } from '../../words/receipt.ts'

/** What a customer takes along at booking, on A6 or A4. */
const route = useRoute()
const session = useSession()
const of = { number: String(route.params.number) }
const [ticket, booking, sentence] = [ref<TicketView | null>(null), ref<BookingView | null>(null), ref('')]
const crossing = ref<readonly CrossingView[]>([])
const size = ref<'A6' | 'A4'>('A6')
// the whole page is on that paper: a part of it alone would begin a sheet of its own
useHead({ title: said.tabTitle(of.number), htmlAttrs: { class: () => (size.value === 'A6' ? 'on-small-paper' : '') } })
onMounted(async () => {
  try {
    await session.load()
    ;[ticket.value, booking.value] = await Promise.all([api(calls.ticket, { params: of }), api(calls.booking, { params: of })])
    const phone = ({ maker, model, platform, version }: PhoneOnTicket) => ({ maker, model, platform, version })
    const body = { old: phone(ticket.value.old), new: phone(ticket.value.new) }
    // of files nothing is known beforehand
    crossing.value = (await api(calls.guidePair, { body }).catch(() => ({ kinds: [] }))).kinds
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
})
const shop = computed(() => session.session?.shop)
const kindList = (kinds: readonly string[]) => kinds.map((kind) => words.kinds[kind] ?? kind).join(', ')
const byHand = computed(() => (booking.value?.wanted ?? []).filter((kind) => !kindCodes.includes(kind)))
/** Kinds that can’t cross, and apps, of which none comes over itself. */
const cannot = computed(() => [
  ...Object.entries(ticket.value?.cannot ?? {}),
  ...crossing.value.flatMap(({ kind, changes }) =>
    changes
      .filter(({ code }) => code === 'counterparts-only' && ticket.value!.kinds.includes(kind))
      .map(({ code }) => [kind, code] as const),
  ),
])
/** What a person can be asked to bring: what was answered “later”, and what the guide needs that only its owner has. */
const bring = computed(() => [
  ...judgeIntake(booking.value?.intake ?? {})
    .because.filter(({ verdict }) => verdict === 'limit')
    .map(({ sentence: say }) => say),
  ...new Set(
    (['old', 'new'] as const).flatMap((side) =>
      (ticket.value?.ready[side].needs ?? [])
        .filter(({ seenBy, weight }) => seenBy === 'person' && weight === 'must')
        .map(({ title }) => `${title}.`),
    ),
  ),
  said.passcodes,
])
const print = () => globalThis.print()
</script>

<template>
  <main
    class="mx-auto min-h-screen bg-white p-8 print:p-0"
    :class="size === 'A6' ? 'max-w-[105mm] text-[0.72rem] leading-snug' : 'max-w-[205mm] text-[0.9rem]'"
  >
    <div class="no-print mb-5 flex flex-wrap items-center gap-2 text-sm">
      <AppButton look="accent" @click="print">{{ said.printReceipt }}</AppButton>
      <span role="group" :aria-label="said.paper" class="flex gap-1"
        ><SmallButton v-for="s in ['A6', 'A4'] as const" :key="s" :pressed="size === s" @click="size = s">{{ s }}</SmallButton></span
      >
      <NuxtLink :to="`/tickets/${of.number}`" class="underline">{{ common.backToTicket }}</NuxtLink>
      <CallOffButton v-if="ticket && canCallOff(ticket)" :number="of.number" class="ml-auto" @done="navigateTo(`/tickets/${of.number}`)" />
    </div>
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <article v-if="ticket && booking && shop" data-testid="receipt">
      <header class="mb-3 border-b-[3px] border-double border-ink pb-2">
        <p class="font-head text-base font-semibold">{{ shop.name }}</p>
        <p class="text-soft">{{ shop.address }}</p>
      </header>
      <h1 class="mb-1 text-2xl">{{ ticket.number }}</h1>
      <p class="mb-2">
        {{ booking.customer ? [booking.customer.name, booking.customer.phone].filter(Boolean).join(', ') : said.erased }}
      </p>
      <dl class="mb-2 grid grid-cols-[6.5em_1fr] gap-y-0.5">
        <template v-for="phone in [ticket.old, ticket.new]" :key="phone.side">
          <dt class="text-soft">{{ sideName(phone.side, phone.place) }}</dt>
          <dd>{{ onPaper(phone) }}</dd>
        </template>
        <dt class="text-soft">{{ common.wanted }}</dt>
        <dd>{{ kindList(ticket.kinds.filter((kind) => !ticket!.cannot[kind])) }}</dd>
        <template v-if="byHand.length > 0">
          <dt class="text-soft">{{ said.byHand }}</dt>
          <dd>{{ kindList(byHand) }}</dd>
        </template>
        <dt class="text-soft">{{ common.readyBy }}</dt>
        <dd>
          <strong>{{ longMoment(booking.promisedAt, shop.zone) }}</strong>
        </dd>
        <dt class="text-soft">{{ said.takenIn }}</dt>
        <dd>{{ longMoment(booking.bookedAt, shop.zone) }}, {{ booking.bookedBy }}</dd>
      </dl>
      <template v-if="cannot.length > 0">
        <h2 class="mt-2 mb-0.5 text-[1em]">{{ said.cantCrossBetweenThese }}</h2>
        <p v-for="[kind, rule] in cannot" :key="`${kind} ${rule}`">{{ words.kinds[kind] ?? kind }}: {{ reason(rule) }}.</p>
      </template>
      <h2 class="mt-2 mb-0.5 text-[1em]">{{ said.whatYouBring }}</h2>
      <ul class="list-disc space-y-0.5 pl-4">
        <li v-for="line in bring" :key="line">{{ line }}</li>
      </ul>
      <p v-if="shop.receiptTerms" class="mt-3 border-t border-rule pt-2 whitespace-pre-line text-soft">{{ shop.receiptTerms }}</p>
    </article>
  </main>
</template>
