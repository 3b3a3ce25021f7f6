<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofTicket, type TicketCall } from './ticket-call.ts'
import { computed, ref } from 'vue'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { ChevronDown } from '@lucide/vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../components/base/AppButton.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import { api } from '../../composables/use-api.ts'
import CallOffDialog from './CallOffDialog.vue'
import TellDialog from './TellDialog.vue'
import { canCallOff } from './use-call-off.ts'
import { words } from '../../words/words.ts'
import { useSession } from '../../stores/session.ts'
import { useTickets } from '../../stores/tickets.ts'
import { common } from '../../words/common.ts'
import { courseMenu } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(courseMenu)

/** Life interrupts: give back now, take up again, hand to a colleague, exchange a faulty new phone. */
const props = defineProps<{ ticket: TicketView; busy: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall] }>()
const store = useTickets()
const session = useSession()
type Ask = 'rest' | 'hand-over' | 'exchange' | 'call-off' | 'kinds' | 'note' | 'tell'
const open = ref<Ask | null>(null)
const kinds = ref<string[]>([])
const typed = ref('')
const to = ref('')
const serial = ref('')
const staff = ref<string[]>([])
const free = computed(() => (store.today?.ports ?? []).filter((p) => p.phone && !p.ticket))
async function ask(what: Ask) {
  kinds.value = [...props.ticket.kinds]
  typed.value = ''
  open.value = what
  if (what === 'exchange') await store.loadToday()
  if (what === 'hand-over') staff.value = (await api(calls.staff)).staff.map((s) => s.name).filter((name) => name !== session.session?.name)
}
function send() {
  const what = open.value
  open.value = null
  if (what === 'kinds') emit('act', 'kinds', ofTicket(calls.changeKinds, changed.value))
  if (what === 'rest') emit('act', 'rest', ofTicket(calls.rest, { words: typed.value }))
  if (what === 'hand-over') emit('act', 'hand-over', ofTicket(calls.handOver, { to: to.value, words: typed.value }))
  if (what === 'note') emit('act', 'note', ofTicket(calls.note, { words: typed.value }))
  if (what === 'exchange') emit('act', 'exchange', ofTicket(calls.exchangeNew, { serial: serial.value, words: typed.value }))
}
const item = 'block w-full px-3 py-1.5 text-left'
const titles = {
  rest: said.rest,
  'hand-over': said.handOver,
  exchange: said.exchange,
  note: said.note,
  kinds: common.changeWhatIsCarried,
}
const changed = computed(() => ({
  add: kinds.value.filter((kind) => !props.ticket.kinds.includes(kind)),
  remove: props.ticket.kinds.filter((kind) => !kinds.value.includes(kind)),
}))
const canSend = computed(() => {
  if (open.value === 'hand-over') return to.value !== ''
  if (open.value === 'kinds') return kinds.value.length > 0 && changed.value.add.length + changed.value.remove.length > 0
  if (open.value === 'exchange') return serial.value !== ''
  return open.value !== 'note' || typed.value.trim() !== ''
})
/** What is asked in a form of this menu; the other two are dialogs of their own. */
const asked = computed(() => (open.value && open.value !== 'call-off' && open.value !== 'tell' ? open.value : null))
function callOff(body: { why: string; takeAway: boolean; typed: string }) {
  open.value = null
  emit('act', 'call-off', ofTicket(calls.callOff, body))
}
defineExpose({ ask })
</script>

<template>
  <AppButton
    v-if="ticket.restingAt && !ticket.erasedAt"
    look="accent"
    :busy="busy === 'resume'"
    @click="emit('act', 'resume', ofTicket(calls.resume, {}))"
    >{{ said.takeUpAgain(ticket.number) }}</AppButton
  >
  <NuxtLink v-else-if="ticket.erasedAt" :to="`/course/${ticket.number}`" class="underline">{{ common.whoDidWhat }}</NuxtLink>
  <Menu v-else as="div" class="relative">
    <MenuButton class="flex items-center gap-1 rounded-[3px] border border-rule bg-sheet px-2.5 py-1.5 font-semibold hover:bg-row"
      >{{ common.more }}<ChevronDown :size="14" aria-hidden="true"
    /></MenuButton>
    <MenuItems class="absolute right-0 z-20 mt-1 w-64 border border-ink bg-sheet py-1 shadow">
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('note')">{{ said.noteMore }}</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('tell')">{{ said.tellMore }}</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('rest')">{{ said.restMore }}</button></MenuItem
      >
      <MenuItem v-if="!ticket.signedAt && !ticket.calledOff && !ticket.run" v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('kinds')">{{ said.kindsMore }}</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('hand-over')">{{ said.handOverMore }}</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('exchange')">{{ said.exchangeMore }}</button></MenuItem
      >
      <MenuItem v-if="canCallOff(ticket)" v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('call-off')">
          {{ common.callTicketOffButton }}
        </button></MenuItem
      >
      <div class="my-1 border-t border-rule" role="separator" />
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/sheet/${ticket.number}`" :class="[item, { 'bg-row': active }]">{{ said.openSheet }}</NuxtLink></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/receipt/${ticket.number}`" :class="[item, { 'bg-row': active }]">{{ common.openReceipt }}</NuxtLink></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/course/${ticket.number}`" :class="[item, { 'bg-row': active }]">{{ common.whoDidWhat }}</NuxtLink></MenuItem
      >
    </MenuItems>
  </Menu>
  <CallOffDialog :open="open === 'call-off'" :ticket="ticket" @close="open = null" @send="callOff" />
  <TellDialog :open="open === 'tell'" :ticket="ticket" @close="open = null" />
  <AppDialog :open="asked !== null" :title="asked ? titles[asked] : ''" @close="open = null">
    <p v-if="open === 'rest'" class="mb-3 text-soft">
      {{ said.restLead(ticket.old.model, ticket.new.model) }}
    </p>
    <p v-else-if="open === 'kinds'" class="mb-3 text-soft">
      {{ said.kindsLead(ticket.new.model) }}
    </p>
    <p v-else-if="open === 'exchange'" class="mb-3 text-soft">
      {{ said.the(ticket.new.model) }}<template v-if="ticket.new.port">{{ ' ' }}{{ said.onPort(ticket.new.port) }}</template>
      {{ said.exchangeLead(ticket.new.model) }}
    </p>
    <p v-else-if="open === 'note'" class="mb-3 text-soft">
      {{ said.noteLead }}
    </p>
    <form class="space-y-3" @submit.prevent="send">
      <label v-if="open === 'hand-over'" class="block"
        ><span class="mb-1 block text-xs text-soft">{{ common.to }}</span>
        <select v-model="to" class="field" required>
          <option value="">—</option>
          <option v-for="name in staff" :key="name">{{ name }}</option>
        </select>
      </label>
      <label v-if="open === 'exchange'" class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.itsPlaceIsTaken }}</span>
        <select v-model="serial" class="field" required>
          <option value="">—</option>
          <option v-for="p in free" :key="p.port" :value="p.phone!.serial">
            {{ said.portLine(p.port, p.phone!.model, p.phone!.serial) }}
          </option>
        </select>
      </label>
      <fieldset v-if="open === 'kinds'" class="grid grid-cols-2 gap-1.5">
        <legend class="sr-only">{{ common.kinds }}</legend>
        <label v-for="kind in [...ticket.kinds, ...ticket.canAdd]" :key="kind" class="flex items-center gap-2"
          ><input
            v-model="kinds"
            type="checkbox"
            class="size-4 accent-ink"
            :value="kind"
            :disabled="ticket.frozenKinds.includes(kind)"
          /><span
            >{{ words.kinds[kind]
            }}<span v-if="ticket.frozenKinds.includes(kind)" class="block text-xs text-soft">{{ said.carried }}</span></span
          ></label
        >
      </fieldset>
      <label v-else class="block"
        ><span class="mb-1 block text-xs text-soft">{{ said.noteLabel }}</span
        ><textarea v-model="typed" class="field" rows="2" maxlength="500" />
      </label>
      <div class="flex gap-2">
        <AppButton type="submit" :look="open === 'exchange' ? 'danger' : 'accent'" :disabled="!canSend">{{
          asked ? titles[asked] : ''
        }}</AppButton>
        <AppButton look="quiet" @click="open = null">{{ common.leaveIt }}</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
