<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
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
import { words as said } from '../../words/words.ts'
import { useSession } from '../../stores/session.ts'
import { useTickets } from '../../stores/tickets.ts'

/** Life interrupts: give back now, take up again, hand to a colleague, exchange a faulty new phone. */
const props = defineProps<{ ticket: TicketView; busy: string }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall] }>()
const store = useTickets()
const session = useSession()
type Ask = 'rest' | 'hand-over' | 'exchange' | 'call-off' | 'kinds' | 'note' | 'tell'
const open = ref<Ask | null>(null)
const kinds = ref<string[]>([])
const words = ref('')
const to = ref('')
const serial = ref('')
const staff = ref<string[]>([])
const free = computed(() => (store.today?.ports ?? []).filter((p) => p.phone && !p.ticket))
async function ask(what: Ask) {
  kinds.value = [...props.ticket.kinds]
  words.value = ''
  open.value = what
  if (what === 'exchange') await store.loadToday()
  if (what === 'hand-over')
    staff.value = (await api(routes.staff)).staff.map((s) => s.name).filter((name) => name !== session.session?.name)
}
function send() {
  const what = open.value
  open.value = null
  if (what === 'kinds') emit('act', 'kinds', ofTicket(routes.changeKinds, changed.value))
  if (what === 'rest') emit('act', 'rest', ofTicket(routes.rest, { words: words.value }))
  if (what === 'hand-over') emit('act', 'hand-over', ofTicket(routes.handOver, { to: to.value, words: words.value }))
  if (what === 'note') emit('act', 'note', ofTicket(routes.note, { words: words.value }))
  if (what === 'exchange') emit('act', 'exchange', ofTicket(routes.exchangeNew, { serial: serial.value, words: words.value }))
}
const item = 'block w-full px-3 py-1.5 text-left'
const titles = {
  rest: 'Stop and give both phones back',
  'hand-over': 'Hand the ticket to a colleague',
  exchange: 'Exchange the new phone',
  note: 'Add a note',
  kinds: 'Change what is carried',
}
const changed = computed(() => ({
  add: kinds.value.filter((kind) => !props.ticket.kinds.includes(kind)),
  remove: props.ticket.kinds.filter((kind) => !kinds.value.includes(kind)),
}))
const canSend = computed(() => {
  if (open.value === 'hand-over') return to.value !== ''
  if (open.value === 'kinds') return kinds.value.length > 0 && changed.value.add.length + changed.value.remove.length > 0
  if (open.value === 'exchange') return serial.value !== ''
  return open.value !== 'note' || words.value.trim() !== ''
})
/** What is asked in a form of this menu; the other two are dialogs of their own. */
const asked = computed(() => (open.value && open.value !== 'call-off' && open.value !== 'tell' ? open.value : null))
function callOff(body: { why: string; takeAway: boolean; typed: string }) {
  open.value = null
  emit('act', 'call-off', ofTicket(routes.callOff, body))
}
defineExpose({ ask })
</script>

<template>
  <AppButton
    v-if="ticket.restingAt && !ticket.erasedAt"
    look="accent"
    :busy="busy === 'resume'"
    @click="emit('act', 'resume', ofTicket(routes.resume, {}))"
    >Take {{ ticket.number }} up again</AppButton
  >
  <NuxtLink v-else-if="ticket.erasedAt" :to="`/course/${ticket.number}`" class="underline">Who did what</NuxtLink>
  <Menu v-else as="div" class="relative">
    <MenuButton class="flex items-center gap-1 rounded-[3px] border border-rule bg-sheet px-2.5 py-1.5 font-semibold hover:bg-row"
      >More<ChevronDown :size="14" aria-hidden="true"
    /></MenuButton>
    <MenuItems class="absolute right-0 z-20 mt-1 w-64 border border-ink bg-sheet py-1 shadow">
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('note')">Add a note…</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('tell')">Tell the customer…</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('rest')">Stop and give both phones back…</button></MenuItem
      >
      <MenuItem v-if="!ticket.signedAt && !ticket.calledOff && !ticket.run" v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('kinds')">Change what is carried…</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('hand-over')">Hand to a colleague…</button></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('exchange')">Exchange the new phone…</button></MenuItem
      >
      <MenuItem v-if="canCallOff(ticket)" v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="ask('call-off')">Call the ticket off…</button></MenuItem
      >
      <div class="my-1 border-t border-rule" role="separator" />
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/sheet/${ticket.number}`" :class="[item, { 'bg-row': active }]">Open the sheet as it stands</NuxtLink></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/receipt/${ticket.number}`" :class="[item, { 'bg-row': active }]">Open the receipt</NuxtLink></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/course/${ticket.number}`" :class="[item, { 'bg-row': active }]">Who did what</NuxtLink></MenuItem
      >
    </MenuItems>
  </Menu>
  <CallOffDialog :open="open === 'call-off'" :ticket="ticket" @close="open = null" @send="callOff" />
  <TellDialog :open="open === 'tell'" :ticket="ticket" @close="open = null" />
  <AppDialog :open="asked !== null" :title="asked ? titles[asked] : ''" @close="open = null">
    <p v-if="open === 'rest'" class="mb-3 text-soft">
      What runs stops where it is; what came over stays. The OLD {{ ticket.old.model }} and the NEW {{ ticket.new.model }} can be pulled,
      and the ticket rests until it is taken up again on any ports. The sheet as it stands says “interim”.
    </p>
    <p v-else-if="open === 'kinds'" class="mb-3 text-soft">
      What is added is counted in, carried and checked like all else. What is written on the NEW {{ ticket.new.model }} already stays on the
      ticket.
    </p>
    <p v-else-if="open === 'exchange'" class="mb-3 text-soft">
      The {{ ticket.new.model }}<template v-if="ticket.new.port"> on port {{ ticket.new.port }}</template> is given back. Both phones are
      counted in again; what was chosen stays chosen, and nothing the {{ ticket.new.model }} took counts any more.
    </p>
    <p v-else-if="open === 'note'" class="mb-3 text-soft">
      It stands at the head of the ticket and on Today until it is erased; colleagues read it, the customer’s sheet does not say it.
    </p>
    <form class="space-y-3" @submit.prevent="send">
      <label v-if="open === 'hand-over'" class="block"
        ><span class="mb-1 block text-xs text-soft">To</span>
        <select v-model="to" class="field" required>
          <option value="">—</option>
          <option v-for="name in staff" :key="name">{{ name }}</option>
        </select>
      </label>
      <label v-if="open === 'exchange'" class="block"
        ><span class="mb-1 block text-xs text-soft">Its place is taken by the phone on</span>
        <select v-model="serial" class="field" required>
          <option value="">—</option>
          <option v-for="p in free" :key="p.port" :value="p.phone!.serial">
            port {{ p.port }}: {{ p.phone!.model }}, {{ p.phone!.serial }}
          </option>
        </select>
      </label>
      <fieldset v-if="open === 'kinds'" class="grid grid-cols-2 gap-1.5">
        <legend class="sr-only">Kinds</legend>
        <label v-for="kind in [...ticket.kinds, ...ticket.canAdd]" :key="kind" class="flex items-center gap-2"
          ><input
            v-model="kinds"
            type="checkbox"
            class="size-4 accent-ink"
            :value="kind"
            :disabled="ticket.frozenKinds.includes(kind)"
          /><span
            >{{ said.kinds[kind] }}<span v-if="ticket.frozenKinds.includes(kind)" class="block text-xs text-soft">carried</span></span
          ></label
        >
      </fieldset>
      <label v-else class="block"
        ><span class="mb-1 block text-xs text-soft">Note, kept sealed with the ticket</span
        ><textarea v-model="words" class="field" rows="2" maxlength="500" />
      </label>
      <div class="flex gap-2">
        <AppButton type="submit" :look="open === 'exchange' ? 'danger' : 'accent'" :disabled="!canSend">{{
          asked ? titles[asked] : ''
        }}</AppButton>
        <AppButton look="quiet" @click="open = null">Leave it as it is</AppButton>
      </div>
    </form>
  </AppDialog>
</template>
