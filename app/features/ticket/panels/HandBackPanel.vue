<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed, ref } from 'vue'
import { Printer } from '@lucide/vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { leftToInstall } from '#core/book/index.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { clock } from '../../../words/say.ts'
import TakeHome from '../../take-home/TakeHome.vue'
import FilesOut from '../FilesOut.vue'
import PutBackList from '../../ready/PutBackList.vue'
import { common } from '../../../words/common.ts'
import { takeHome } from '../../../words/take-home.ts'
import { handBackPanel } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(handBackPanel)

/** The sheet, its signature, and erasing what the shop holds. */
const props = defineProps<{ ticket: TicketView; busy: string; zone: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall]; show: [] }>()
const by = ref('')
const typed = ref('')
const isTiedKnown = ref(false)
const isPaperless = ref(false)
const sign = () => emit('act', 'sign', ofTicket(calls.sign, { by: by.value, withWhatStands: !props.ticket.mayHandOver }))
const erase = () => emit('act', 'erase', ofTicket(calls.erase, { typed: typed.value }))
const isPutBackOpen = computed(() =>
  [...props.ticket.ready.old.putBack, ...props.ticket.ready.new.putBack].some((item) => item.state === 'open'),
)
/** Apps installed by hand that the new phone does not report yet. */
const toInstall = computed(() => leftToInstall(props.ticket.ledger))
/** Signed, and nobody pressed Print: the customer has no sheet. */
const isUnprinted = computed(() => props.ticket.signedAt !== null && !props.ticket.printedAt)
const isTyped = () => typed.value.trim().toUpperCase() === props.ticket.number
</script>

<template>
  <p v-if="ticket.calledOff" class="mb-3 text-ochre" data-testid="called-off">
    {{ said.calledOff }}<template v-if="ticket.calledOff.why">: {{ ticket.calledOff.why }}</template
    >{{ said.nothingMoreIsCarried }}
  </p>
  <p v-else-if="!ticket.mayHandOver && !ticket.erasedAt" class="mb-3 text-ochre">
    {{ ticket.signedAt ? said.signedWithWhatStands : said.notYet }}
  </p>
  <NuxtLink
    :to="`/sheet/${ticket.number}`"
    class="mb-4 flex items-center justify-center gap-2 rounded-[3px] border border-ink px-3.5 py-2 font-semibold"
    :class="ticket.signedAt || ticket.erasedAt ? 'bg-sheet' : 'bg-ink text-sheet'"
    ><Printer :size="15" aria-hidden="true" />{{ said.openSheetToPrint }}</NuxtLink
  >
  <div v-if="toInstall > 0 && !ticket.signedAt" class="mb-4 border border-rule bg-sheet p-3">
    <p class="mb-2 text-soft">
      {{ said.toInstall(toInstall) }}
    </p>
    <AppButton look="quiet" class="w-full" :busy="busy === 'check'" @click="emit('act', 'check', ofTicket(calls.checkOff))">{{
      common.countBothPhonesAgain
    }}</AppButton>
  </div>
  <p
    v-if="ticket.tied.open > 0 && !ticket.erasedAt"
    class="mb-4 border-l-4 border-ochre bg-ochre-pale px-2.5 py-2 text-ochre"
    data-testid="tied"
  >
    {{ said.tied(ticket.tied.open, ticket.old.model) }}
  </p>
  <TakeHome v-if="ticket.new.place === 'folder'" :ticket="ticket" :busy="busy" :zone="zone" @act="(n, call) => emit('act', n, call)" />
  <FilesOut v-if="ticket.new.place !== 'folder'" :ticket="ticket" @show="$emit('show')" />
  <PutBackList
    v-if="!ticket.erasedAt"
    :ticket="ticket"
    :busy="busy"
    @put="(body) => emit('act', 'put-back', ofTicket(calls.putBack, body))"
  />
  <form v-if="!ticket.signedAt && !ticket.calledOff && !ticket.erasedAt" class="border border-rule bg-sheet p-3" @submit.prevent="sign">
    <p v-if="!ticket.mayHandOver" class="mb-2 text-soft">
      {{ said.withWhatStands }}
    </p>
    <label v-if="ticket.tied.open > 0" class="mb-2 flex gap-2 text-ochre"
      ><input v-model="isTiedKnown" type="checkbox" class="mt-0.5 size-4 shrink-0 accent-ink" /><span>{{
        said.customerKnows(ticket.tied.open, ticket.old.model)
      }}</span></label
    >
    <label class="block"
      ><span class="mb-1 block">{{ said.signedBy }}</span
      ><input v-model="by" class="field" autocomplete="off" required maxlength="120"
    /></label>
    <AppButton
      type="submit"
      class="mt-2 w-full"
      :disabled="!by.trim() || isPutBackOpen || (ticket.tied.open > 0 && !isTiedKnown)"
      :busy="busy === 'sign'"
      :look="ticket.mayHandOver ? undefined : 'danger'"
      >{{ ticket.mayHandOver ? said.sheetIsSigned : said.signWithWhatStands }}</AppButton
    >
  </form>
  <template v-else-if="!ticket.erasedAt">
    <p v-if="ticket.signedAt" class="mb-3">
      {{ said.signedBy }} <strong>{{ ticket.signedBy }}</strong> {{ said.at(clock(ticket.signedAt!, zone)) }}
    </p>
    <form class="border border-madder bg-sheet p-3" @submit.prevent="erase">
      <h3 class="mb-1 font-body font-semibold">{{ said.handBackAndErase }}</h3>
      <p class="mb-2 text-soft">
        {{ said.everythingGoes(ticket.old.model, ticket.new.model) }}
        <template v-if="ticket.old.copy || ticket.new.copy">{{ ' ' }}{{ said.copyStays }}</template>
        <strong v-if="ticket.new.place === 'folder'" :class="ticket.new.archive?.takenAt ? '' : 'text-madder'"
          >{{ ' ' }}{{ ticket.new.archive?.takenAt ? takeHome.zipGoes : takeHome.zipGoesUnfetched }}</strong
        >
      </p>
      <label v-if="isUnprinted" class="mb-2 flex gap-2 text-madder" data-testid="not-printed"
        ><input v-model="isPaperless" type="checkbox" class="mt-0.5 size-4 shrink-0 accent-ink" /><span>{{
          said.sheetWasNotPrinted
        }}</span></label
      >
      <label class="block"
        ><span class="mb-1 block">{{ said.type(ticket.number) }}</span
        ><input v-model="typed" class="field" autocomplete="off"
      /></label>
      <AppButton
        look="danger"
        type="submit"
        class="mt-2 w-full"
        :disabled="!isTyped() || ticket.run !== null || (isUnprinted && !isPaperless)"
        :busy="busy === 'erase'"
        >{{ said.eraseData(ticket.number) }}</AppButton
      >
    </form>
  </template>
  <p v-else class="text-soft">{{ said.erased(clock(ticket.erasedAt, zone)) }}</p>
</template>
