<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { routes } from '#contracts/http/routes.ts'
import { kindCodes } from '#core/kinds/codes.ts'
import { intakeQuestions } from '#core/phones/intake.ts'
import type { BookingView, TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import SentenceBox from '../../../components/base/SentenceBox.vue'
import { api, ApiFailure } from '../../../composables/use-api.ts'
import { longMoment } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import type { Model, PhoneChoice } from '../../book-in/phone-choice.ts'
import { localTime } from '../../book-in/local-time.ts'
import { ofTicket, type TicketCall } from '../ticket-call.ts'

/** What was booked, and what can still be changed of it. */
const props = defineProps<{ ticket: TicketView; busy: string; zone: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall]; kinds: [] }>()
const booking = ref<BookingView | null>(null)
const sentence = ref('')
const isChanging = ref(false)
const models = ref<Model[]>([])
const form = reactive({ name: '', phone: '', note: '', promised: '', waits: true, old: '', new: '' })
const isClosed = computed(() => Boolean(props.ticket.erasedAt || props.ticket.signedAt || props.ticket.calledOff))

async function look() {
  await api(routes.booking, { params: { number: props.ticket.number } }).then(
    (answer) => (booking.value = answer),
    (error: unknown) => (sentence.value = error instanceof ApiFailure ? error.sentence : 'Try again.'),
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
  if (models.value.length === 0) models.value = (await api(routes.guide)).models
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
  emit('act', 'edit', ofTicket(routes.edit, { ...body, ...chosen('old'), ...chosen('new') }))
}
const phones = computed(() => [...(booking.value?.phones ?? [])].sort((a, b) => (a.side === 'old' ? -1 : 1) - (b.side === 'old' ? -1 : 1)))
const answered = computed(() =>
  intakeQuestions.flatMap(({ code, ask }) => {
    const answer = booking.value?.intake[code]
    return answer ? [`${ask}: ${words.intake[answer] ?? answer}`] : []
  }),
)
const wanted = computed(() =>
  (booking.value?.wanted ?? []).map((kind) => words.kinds[kind]! + (kindCodes.includes(kind) ? '' : ' (by hand)')),
)
</script>

<template>
  <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
  <p v-else-if="!booking" class="text-soft">Looking…</p>
  <template v-else-if="!isChanging">
    <dl class="mb-3 space-y-2" data-testid="booking">
      <div>
        <dt class="text-xs text-soft">Customer</dt>
        <dd v-if="booking.customer">
          <strong>{{ booking.customer.name }}</strong><template v-if="booking.customer.phone">, {{ booking.customer.phone }}</template>
          <span v-if="booking.customer.note" class="block text-soft">{{ booking.customer.note }}</span>
        </dd>
        <dd v-else>erased</dd>
      </div>
      <div>
        <dt class="text-xs text-soft">Promise</dt>
        <dd>{{ longMoment(booking.promisedAt, zone) }}, {{ booking.waitsInShop ? 'waits in the shop' : 'comes back' }}</dd>
      </div>
      <div v-for="phone in phones" :key="phone.side">
        <dt class="text-xs text-soft">{{ phone.side === 'old' ? 'OLD phone' : 'NEW phone' }}</dt>
        <dd>
          {{ phone.model }}<template v-if="phone.version">, version {{ phone.version }}</template
          ><template v-if="phone.serial">, {{ phone.serial }}</template>
        </dd>
      </div>
      <div>
        <dt class="text-xs text-soft">Wanted</dt>
        <dd>{{ wanted.join(', ') }}</dd>
      </div>
      <div v-if="answered.length > 0">
        <dt class="text-xs text-soft">Asked at the counter</dt>
        <dd v-for="line in answered" :key="line">{{ line }}</dd>
      </div>
      <div>
        <dt class="text-xs text-soft">Booked in</dt>
        <dd>by {{ booking.bookedBy }}, {{ longMoment(booking.bookedAt, zone) }}</dd>
      </div>
    </dl>
    <div class="space-y-1.5">
      <AppButton v-if="!isClosed" class="w-full" :busy="busy === 'edit'" @click="change">Change the booking</AppButton>
      <AppButton v-if="!isClosed && !ticket.run" look="quiet" class="w-full" @click="emit('kinds')">Change what is carried</AppButton>
      <NuxtLink
        v-if="!ticket.erasedAt"
        :to="`/receipt/${ticket.number}`"
        class="block rounded-[3px] border border-rule px-3.5 py-2 text-center text-sm font-semibold hover:bg-row"
        >Open the receipt to print it</NuxtLink
      >
    </div>
  </template>
  <form v-else class="space-y-2.5" aria-label="Change the booking" @submit.prevent="keep">
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">Name</span
      ><input v-model="form.name" class="field" required maxlength="120" autocomplete="off"
    /></label>
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">Telephone</span
      ><input v-model="form.phone" class="field" type="tel" maxlength="40" autocomplete="off"
    /></label>
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">About the customer</span
      ><textarea v-model="form.note" class="field" rows="2" maxlength="500" />
    </label>
    <label class="block"
      ><span class="mb-1 block text-xs text-soft">Ready by</span
      ><input v-model="form.promised" class="field" type="datetime-local" required
    /></label>
    <label class="flex items-center gap-2"
      ><input v-model="form.waits" type="checkbox" class="size-4 accent-ink" /> Customer waits in the shop</label
    >
    <template v-if="booking.canChangePhones">
      <label v-for="side in ['old', 'new'] as const" :key="side" class="block"
        ><span class="mb-1 block text-xs text-soft">{{ side === 'old' ? 'OLD phone is another' : 'NEW phone is another' }}</span>
        <select v-model="form[side]" class="field">
          <option value="">No, the {{ ticket[side].model }}</option>
          <option v-for="m in models" :key="m.model" :value="`${m.maker}|${m.model}`">
            {{ m.model }} ({{ words.platforms[m.platform] }})
          </option>
        </select>
      </label>
    </template>
    <p v-else class="text-xs text-soft">The phones stay as they are booked: something runs, or is written already.</p>
    <div class="flex flex-wrap gap-2">
      <AppButton type="submit" look="accent">Keep the changes</AppButton>
      <AppButton look="quiet" @click="isChanging = false">Leave it</AppButton>
    </div>
  </form>
</template>
