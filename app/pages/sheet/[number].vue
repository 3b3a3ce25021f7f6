<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { ActView } from '#contracts/http/course.ts'
import type { PhoneOnTicket, SheetView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../../composables/use-api.ts'
import CallOffButton from '../../features/ticket/CallOffButton.vue'
import { canCallOff } from '../../features/ticket/use-call-off.ts'
import CourseList from '../../features/course/CourseList.vue'
import SheetInstall from '../../features/sheet/SheetInstall.vue'
import SheetReasons from '../../features/sheet/SheetReasons.vue'
import SheetTable from '../../features/sheet/SheetTable.vue'
import { leftAndByHand, moreThanExpected, openPoints, reasonSections } from '../../words/sheet-lines.ts'
import { useSession } from '../../stores/session.ts'
import { fullDay, longMoment, phoneName, shortAndOver } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { copyLineOf, onPaper } from '../../words/copy-line.ts'
import { sheetPage } from '../../words/sheet.ts'
import { provideSideNames, useSaid } from '../../features/ticket/side-names.ts'

/** One A4 page: counts and reasons, no names of contacts. */
const route = useRoute()
const ofTicket = { number: String(route.params.number) }
const sheet = ref<SheetView | null>(null)
const sides = provideSideNames(() => sheet.value?.ticket)
const said = useSaid(sheetPage, sides)
const sentence = ref('')
async function look() {
  try {
    // dates are in the shop's language, however one came here
    await useSession().load()
    sheet.value = await api(calls.sheet, { params: ofTicket })
  } catch (error) {
    sentence.value = sentenceOf(error)
  }
}
onMounted(look)
useHead({ title: said.tabTitle(String(route.params.number)) })
const when = (iso: string) => longMoment(iso, sheet.value!.shop.zone)
/** Erased, and signed before sheets were kept: only the counts remain. */
const isLost = computed(() => sheet.value!.isErased && !sheet.value!.signed)
const parts = computed(() => reasonSections(sheet.value!))
const more = computed(() => moreThanExpected(sheet.value!))
const byHand = computed(() => leftAndByHand(sheet.value!))
const open = computed(() => openPoints(sheet.value!))
const lookedAt = computed(() => {
  const run = sheet.value!.ticket.lastRun
  return run?.type === 'check-off' ? run.endedAt : null
})
const settings = computed(() =>
  (['old', 'new'] as const).flatMap((side) => sheet.value!.ticket.ready[side].putBack.map((item) => ({ side, ...item }))),
)
const exchanged = computed(() => sheet.value!.ticket.notes.filter((note) => note.what === 'new-exchanged'))
/** “2 short”, “1 over”, or both. */
const acceptedWords = ({ short, over }: { short: number; over: number }) => shortAndOver({ short, over }) || said.notMet
/** Of a phone its serial, sealed, and gone with the data; of a copy which it is, as of when, and what was short then. */
function serialOf({ place, serial, copy, side }: PhoneOnTicket): string {
  if (copy) return `, ${copyLineOf(copy, side)}`
  return place !== 'bench' ? '' : serial ? `, ${serial}` : sheet.value!.isErased ? said.serialErased : ''
}
/** Printed with it when asked: on a page of its own, and no part of what is signed. */
const acts = ref<readonly ActView[] | null>(null)
async function withCourse() {
  acts.value = acts.value ? null : ((await api(calls.course, { params: ofTicket }).catch(() => null))?.acts ?? null)
}
const print = () => {
  globalThis.print()
  if (!sheet.value!.isErased) void api(calls.printed, { params: ofTicket }).catch(() => undefined)
}
</script>

<template>
  <main class="mx-auto min-h-screen max-w-[205mm] bg-white p-10 text-[0.82rem] print:p-0 print:text-[0.66rem] print:leading-[1.24]">
    <div class="no-print mb-6 flex items-center gap-3">
      <AppButton look="accent" @click="print">{{ said.printSheet }}</AppButton>
      <label class="flex items-center gap-1.5"
        ><input :checked="acts !== null" type="checkbox" class="size-4 accent-ink" @change="withCourse" /> {{ said.withWhoDidWhat }}</label
      >
      <NuxtLink :to="`/tickets/${route.params.number}`" class="underline">{{ common.backToTicket }}</NuxtLink>
      <CallOffButton v-if="sheet && canCallOff(sheet.ticket)" :number="ofTicket.number" class="ml-auto" @done="look" />
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
          <!-- by day: what was printed a minute before it was signed is the same page -->
          <p class="text-soft">{{ fullDay(sheet.madeAt, sheet.shop.zone) }}</p>
        </div>
      </header>
      <dl class="mb-5 grid print:mb-2 print:grid-cols-[5rem_1fr_5rem_1fr] grid-cols-[7rem_1fr] gap-y-1">
        <dt class="text-soft">{{ common.customer }}</dt>
        <dd>{{ sheet.customer ? [sheet.customer.name, sheet.customer.phone].filter(Boolean).join(', ') : said.erased }}</dd>
        <dt class="text-soft">{{ sides.old }}</dt>
        <dd>
          {{ phoneName(sheet.ticket.old) }}, {{ words.platforms[sheet.ticket.old.platform] }} {{ sheet.ticket.old.version
          }}{{ serialOf(sheet.ticket.old) }}
        </dd>
        <dt class="text-soft">{{ sides.new }}</dt>
        <dd>
          <template v-if="sheet.ticket.new.place === 'folder'">{{ onPaper(sheet.ticket.new) }}</template>
          <template v-else
            >{{ sheet.ticket.new.place === 'bench' ? `${phoneName(sheet.ticket.new)}, ` : ''
            }}{{ words.platforms[sheet.ticket.new.platform] }} {{ sheet.ticket.new.version }}{{ serialOf(sheet.ticket.new) }}</template
          >
        </dd>
        <dt class="text-soft">{{ said.doneBy }}</dt>
        <dd>{{ sheet.ticket.bookedBy }}</dd>
      </dl>
      <p v-if="sheet.ticket.restingAt" class="mb-1">
        {{ said.stopped(when(sheet.ticket.restingAt)) }}
      </p>
      <p class="mb-3 font-head text-base font-semibold print:mb-1.5 print:text-[0.85rem]">
        {{ sheet.ticket.mayHandOver || isLost ? said.counted : sheet.signed ? said.signedWithWhatStands : said.interim }}
        <span v-if="lookedAt" class="font-body text-xs font-normal text-soft print:text-[0.6rem]">{{
          said.lastReadOn(when(lookedAt))
        }}</span>
      </p>
      <p v-if="sheet.signed?.isVoid" class="mb-3 border-l-4 border-madder bg-madder-pale px-2.5 py-1.5 text-madder" data-testid="void">
        {{ said.countedAgain }}
      </p>
      <p
        v-for="f in sheet.former"
        :key="f.digest"
        class="mb-3 border-l-4 border-ochre bg-ochre-pale px-2.5 py-1.5 text-ochre"
        data-testid="former"
      >
        {{ said.voided(when(f.at), f.digest, when(f.voidedAt)) }}
      </p>
      <SheetTable :ledger="sheet.ticket.ledger" />
      <!-- one text in two columns: whichever list is longer, the page is used -->
      <div class="columns-2 gap-8 print:gap-6" data-testid="reasons">
        <SheetReasons :parts="parts" :more="more" :is-several="sheet.ticket.kinds.length > 1" />
        <template v-if="open.length > 0">
          <h2 class="mt-3 mb-1 break-after-avoid text-sm print:mt-1.5">{{ said.openPoints }}</h2>
          <ul class="space-y-0.5" data-testid="open-points">
            <li v-for="line in open" :key="line">{{ line }}.</li>
          </ul>
        </template>
        <template v-if="byHand.length > 0">
          <h2 class="mt-3 mb-1 break-after-avoid text-sm print:mt-1.5">{{ said.leftAndByHand }}</h2>
          <ul class="space-y-0.5">
            <li v-for="line in byHand" :key="line">{{ line }}</li>
          </ul>
        </template>
        <template v-if="settings.length > 0">
          <h2 class="mt-3 mb-1 break-after-avoid text-sm print:mt-1.5">
            {{ settings.some((s) => s.state === 'open') ? said.stillToPutBack : said.settingsPutBack }}
          </h2>
          <ul class="space-y-0.5 print:space-y-0">
            <li v-for="s in settings" :key="`${s.side} ${s.code}`">
              <strong class="font-head">{{ words.sides[s.side] }}</strong> {{ s.title
              }}<template v-if="s.state === 'waived'">{{ said.leftAsCustomerWishes }}</template
              ><template v-else-if="s.state === 'open'">{{ said.notYet }}</template>
            </li>
          </ul>
        </template>
      </div>
      <SheetInstall :install="sheet.install" :tied="sheet.ticket.tied.open" />
      <p v-for="note in exchanged" :key="note.at" class="mt-4">
        {{ said.wasGivenBack(note.phone ?? '', when(note.at), sheet.ticket.new.model) }}
      </p>
      <p v-for="a in sheet.ticket.accepted" :key="a.kind" class="mt-4">
        {{ said.accepted(a.by || said.customerErased, words.kinds[a.kind]!.toLowerCase(), acceptedWords(a), when(a.at)) }}
      </p>
      <p v-if="sheet.shop.words" class="mt-4 whitespace-pre-line text-soft print:mt-2">{{ sheet.shop.words }}</p>
      <footer class="mt-16 grid break-inside-avoid print:mt-7 grid-cols-2 gap-12">
        <div class="border-t border-ink pt-1">
          {{ common.customer }}<span v-if="sheet.signed">: {{ sheet.signed.by ?? said.nameErased }}, {{ when(sheet.signed.at) }}</span>
        </div>
        <div class="border-t border-ink pt-1">{{ sheet.shop.name }}</div>
      </footer>
      <p v-if="sheet.signed" class="mt-2 text-xs text-soft print:text-[0.6rem]" data-testid="digest">
        {{ said.keptAsSigned(sheet.signed.digest) }}<template v-if="sheet.isErased">{{ said.namesErased }}</template>
      </p>
      <section v-if="acts" class="mt-8 break-before-page" aria-labelledby="course">
        <h2 id="course" class="mb-2 text-base">{{ common.whoDidWhat }}</h2>
        <CourseList :acts="acts" :zone="sheet.shop.zone" />
      </section>
    </article>
  </main>
</template>
