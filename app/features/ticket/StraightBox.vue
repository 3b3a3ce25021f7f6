<script setup lang="ts">
import { computed, ref } from 'vue'
import { FastForward } from '@lucide/vue'
import { calls } from '#contracts/http/calls.ts'
import type { EntryFilter } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import FigureButton from '../../components/base/FigureButton.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import { number, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { stopWords } from '../../words/course.ts'
import { ofTicket, type TicketCall } from './ticket-call.ts'
import { straightBox } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(straightBox)

/** A ticket that runs by itself: how far that goes, or what somebody must decide before it goes on. */
const props = defineProps<{ ticket: TicketView; busy: string }>()
const emit = defineEmits<{
  act: [name: string, call: TicketCall]
  stage: [stage: 'choose']
  open: [filter: EntryFilter, reason: string, kind: string]
  joinings: [kind: string]
}>()
const stop = computed(() => (props.ticket.run ? null : (props.ticket.straight?.stop ?? null)))
/** So many reasons are shown at once; the buttons below stay in sight. */
const few = 3
const isWhole = ref(false)
/** Not over yet: it is shown until the check has run. */
const isShown = computed(
  () =>
    props.ticket.straight && !props.ticket.signedAt && !props.ticket.calledOff && !['check-off', 'hand-back'].includes(props.ticket.stage),
)
const yes = computed(() =>
  stop.value?.code === 'roles'
    ? said.yesIsNewPhone(props.ticket.new.model)
    : stop.value?.code === 'people-on-both'
      ? said.carryThemAsThey
      : stop.value?.code === 'after-promise'
        ? said.goOnCustomerKnows
        : said.goOnWithThese,
)
/** Every count opens to its items. */
function look({ kind, code }: { kind: string; code: string }) {
  if (!code) return emit('joinings', kind)
  const isRule = props.ticket.reasons.some((r) => r.kind === kind && r.code === code && r.fate === 'cannotCross')
  emit('open', isRule ? 'cannotCross' : 'toCome', code, kind)
}
const set = (on: boolean, agree = false) => emit('act', 'straight', ofTicket(calls.straight, { on, agree }))
</script>

<template>
  <section
    v-if="isShown"
    class="mb-4 border-l-4 px-3 py-2"
    :class="stop ? 'border-ochre bg-ochre-pale' : 'border-slate bg-slate-pale'"
    :aria-label="said.straightThrough"
  >
    <p class="flex items-center gap-1.5 font-semibold" :class="stop ? 'text-ochre' : 'text-slate'">
      <FastForward :size="15" aria-hidden="true" />{{ said.head(stop !== null) }}
    </p>
    <template v-if="stop">
      <p class="mt-1 first-letter:uppercase" data-testid="straight-stop">{{ stopWords(stop.code) }}.</p>
      <ul v-if="stop.of.length > 0" class="mt-1 space-y-1 text-[0.8rem]" :aria-label="said.whatItWaitsFor">
        <li
          v-for="part in isWhole ? stop.of : stop.of.slice(0, few)"
          :key="`${part.kind} ${part.code}`"
          class="grid grid-cols-[2.2rem_1fr] items-baseline gap-1.5"
        >
          <FigureButton :n="part.items" class="font-semibold" :aria-label="`${part.items}, ${words.kinds[part.kind]}`" @open="look(part)" />
          <span>{{ part.code ? `${words.kinds[part.kind]}: ${reason(part.code)}` : said.people }}</span>
        </li>
      </ul>
      <LinkButton v-if="stop.of.length > few" class="text-xs" @click="isWhole = !isWhole">{{
        isWhole ? said.fewer : said.allReasons(stop.of.length)
      }}</LinkButton>
      <p v-if="stop.code === 'after-promise' && ticket.plan" class="mt-1 text-[0.8rem]">
        {{ said.itTakesUp(number(Math.ceil(ticket.plan.duration.highS / 60))) }}
      </p>
      <div class="mt-2 space-y-1.5">
        <AppButton v-if="stop.code !== 'does-not-fit'" look="accent" class="w-full" :busy="busy === 'straight'" @click="set(true, true)">{{
          yes
        }}</AppButton>
        <AppButton class="w-full" @click="emit('stage', 'choose')">{{
          stop.code === 'does-not-fit' ? said.chooseWhatIsLeft : stop.code === 'people-on-both' ? said.seeWhoTheyAre : said.lookAtForecast
        }}</AppButton>
      </div>
    </template>
    <p v-else class="mt-1 text-[0.8rem]">
      {{ said.itCountsInCarries(ticket.straight!.by) }}
    </p>
    <LinkButton class="mt-1 text-xs" @click="set(false)">{{ said.notByItselfAny }}</LinkButton>
  </section>
</template>
