<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import { intakeQuestions } from '#core/phones/intake.ts'
import type { BookingView, TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import SentenceBox from '../../../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../../../composables/use-api.ts'
import { longMoment } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import type { Model, PhoneChoice } from '../../book-in/phone-choice.ts'
import { localTime } from '../../book-in/local-time.ts'
import NotTaken from '../NotTaken.vue'
import { ofTicket, type TicketCall } from '../ticket-call.ts'
import { common } from '../../../words/common.ts'
import { bookInPanel } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(bookInPanel)

/** What was booked, and what can still be changed of it. */
const props = defineProps<{ ticket: TicketView; busy: string; zone: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall]; kinds: []; show: [] }>()
const booking = ref<BookingView | null>(null)
const sentence = ref('')
const isChanging = ref(false)
const models = ref<Model[]>([])
const form = reactive({ name: '', phone: '', note: '', promised: '', waits: true, old: '', new: '' })
const isClosed = computed(() => Boolean(props.ticket.erasedAt || props.ticket.signedAt || props.ticket.calledOff))

async function look() {
  await api(calls.booking, { params: { number: props.ticket.number } }).then(
    (answer) => (booking.value = answer),
    (error: unknown) => (sentence.value = sentenceOf(error)),
  )
}
onMounted(look)
// what is booked, and nothing of what runs: that changes several times a second
watch(() => {
  const { number, customer, promisedAt, waitsInShop, old, new: now, kinds, run } = props.ticket
  return JSON.stringify([number, customer, promisedAt, waitsInShop, old.model, old.serial, now.model, now.serial, kinds, run === null])
}, look)
async function change() {
  const { customer, promisedAt, waitsInShop } = booking.value!
  Object.assign(form, { ...customer, promised: localTime(Date.parse(promisedAt)), waits: waitsInShop, old: '', new: '' })
  isChanging.value = true
  if (models.value.length === 0) models.value = (await api(calls.guide)).models
}
/** A phone booked by its model: which one it is, is said when it is plugged in. */
function chosen(side: 'old' | 'new'): { [side: string]: PhoneChoice } {
  const model = models.value.find((m) => `${m.maker}|${m.model}` === form[side])
  if (!model) return {}
  return {
    [side]: {
      place: 'bench',
      maker: model.maker,
      model: model.model,
      platform: model.platform,
      version: model.versions[0] ?? '',
      serial: null,
    },
  }
}
function keep() {
  isChanging.value = false
  const { name, phone, note } = form
  const body = { customer: { name, phone, note }, promisedAt: new Date(form.promised).toISOString(), waitsInShop: form.waits }
  emit('act', 'edit', ofTicket(calls.edit, { ...body, ...chosen('old'), ...chosen('new') }))
}
const phones = computed(() => [...(booking.value?.phones ?? [])].sort((a, b) => (a.side === 'old' ? -1 : 1) - (b.side === 'old' ? -1 : 1)))
const answered = computed(() =>
  intakeQuestions.flatMap(({ code, ask }) => {
    const answer = booking.value?.intake[code]
    return answer ? [`${ask}: ${words.intake[answer] ?? answer}`] : []
  }),
)
const wanted = computed(() =>
  (booking.value?.wanted ?? []).map((kind) => words.kinds[kind]! + (kindCodes.includes(kind) ? '' : said.byHand)),
)
</script>

<template>
  <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
  <p v-else-if="!booking" class="text-soft">{{ common.looking }}</p>
  <template v-else-if="!isChanging">
    <dl class="mb-3 space-y-2" data-testid="booking">
      <div>
        <dt class="text-xs text-soft">{{ common.customer }}</dt>
        <dd v-if="booking.customer">
          <strong>{{ booking.customer.name }}</strong><template v-if="booking.customer.phone">, {{ booking.customer.phone }}</template>
          <span v-if="booking.customer.note" class="block text-soft">{{ booking.customer.note }}</span>
        </dd>
        <dd v-else>{{ said.erased }}</dd>
      </div>
      <div>
        <dt class="text-xs text-soft">{{ common.promise }}</dt>
        <dd>{{ longMoment(booking.promisedAt, zone) }}, {{ booking.waitsInShop ? said.waitsInShop : said.comesBack }}</dd>
      </div>
      <div v-for="phone in phones" :key="phone.side">
        <dt class="text-xs text-soft">{{ phone.side === 'old' ? said.oldPhone : said.newPhone }}</dt>
        <dd>
          {{ phone.model }}<template v-if="phone.version">{{ said.version(phone.version) }}</template
          ><template v-if="phone.serial">, {{ phone.serial }}</template>
        </dd>
      </div>
      <div>
        <dt class="text-xs text-soft">{{ common.wanted }}</dt>
        <dd>{{ wanted.join(', ') }}</dd>
      </div>
      <div v-if="answered.length > 0">
        <dt class="text-xs text-soft">{{ said.askedAtCounter }}</dt>
        <dd v-for="line in answered" :key="line">{{ line }}</dd>
      </div>
      <div>
        <dt class="text-xs text-soft">{{ common.bookedIn }}</dt>
        <dd>{{ said.by(booking.bookedBy, longMoment(booking.bookedAt, zone)) }}</dd>
      </div>
    </dl>
    <NotTaken v-if="ticket.old.place === 'file' && !ticket.erasedAt" :ticket="ticket" @show="emit('show')" />
    <div class="space-y-1.5">
      <AppButton v-if="!isClosed" class="w-full" :busy="busy === 'edit'" @click="change">{{ said.changeBooking }}</AppButton>
      <AppButton v-if="!isClosed && !ticket.run" look="quiet" class="w-full" @click="emit('kinds')">{{
        common.changeWhatIsCarried
      }}</AppButton>
      <NuxtLink
        v-if="!ticket.erasedAt"
        :to="`/receipt/${ticket.number}`"
        class="block rounded-[3px] border border-rule px-3.5 py-2 text-center text-sm font-semibold hover:bg-row"
        >{{ said.openReceiptToPrint }}</NuxtLink
      >
    </div>
  </template>
  <form v-else class="space-y-2.5" :aria-label="said.changeBooking" @submit.prevent="keep">
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">{{ common.name }}</span
      ><input v-model="form.name" class="field" required maxlength="120" autocomplete="off"
    /></label>
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">{{ said.telephone }}</span
      ><input v-model="form.phone" class="field" type="tel" maxlength="40" autocomplete="off"
    /></label>
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">{{ said.aboutCustomer }}</span
      ><textarea v-model="form.note" class="field" rows="2" maxlength="500" />
    </label>
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">{{ common.readyBy }}</span
      ><input v-model="form.promised" class="field" type="datetime-local" required
    /></label>
    <label class="flex items-center gap-2"
      ><input v-model="form.waits" type="checkbox" class="size-4 accent-ink" /> {{ common.customerWaitsInShop }}</label
    >
    <template v-if="booking.canChangePhones">
      <label v-for="side in ['old', 'new'] as const" :key="side" class="block"
        ><span class="mb-1 block text-xs text-soft">{{ side === 'old' ? said.oldPhoneIsAnother : said.newPhoneIsAnother }}</span>
        <select v-model="form[side]" class="field">
          <option value="">{{ said.no(ticket[side].model) }}</option>
          <option v-for="m in models" :key="m.model" :value="`${m.maker}|${m.model}`">
            {{ m.model }} ({{ words.platforms[m.platform] }})
          </option>
        </select>
      </label>
    </template>
    <p v-else class="text-xs text-soft">{{ said.phonesStay }}</p>
    <div class="flex flex-wrap gap-2">
      <AppButton type="submit" look="accent">{{ common.keepChanges }}</AppButton>
      <AppButton look="quiet" @click="isChanging = false">{{ said.leaveIt }}</AppButton>
    </div>
  </form>
</template>
