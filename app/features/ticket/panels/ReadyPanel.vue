<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { ofTicket, type TicketCall } from '../ticket-call.ts'
import { computed, ref } from 'vue'
import { ArrowLeftRight } from '@lucide/vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import AppButton from '../../../components/base/AppButton.vue'
import { api } from '../../../composables/use-api.ts'
import { useTickets } from '../../../stores/tickets.ts'
import RightPhoneDialog from '../../ready/RightPhoneDialog.vue'
import NeedCard from '../../ready/NeedCard.vue'
import { words } from '../../../words/words.ts'
import { common } from '../../../words/common.ts'
import { readyPanel } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(readyPanel)

/** What to see to next, in steps; and which phone is which. */
const props = defineProps<{ ticket: TicketView; busy: string; picked: { side: 'old' | 'new'; code: string } | null }>()
const emit = defineEmits<{ act: [name: string, call: TicketCall] }>()
const store = useTickets()
if (!store.today) void store.loadToday()

/** The need somebody pressed, else the first that waits: the old phone's before the new one's. */
const shown = computed(() => {
  const { ready } = props.ticket
  const { picked } = props
  const found = picked && ready[picked.side].needs.find((need) => need.code === picked.code)
  if (picked && found) return { side: picked.side, need: found }
  for (const side of ['old', 'new'] as const) {
    const need = !ready[side].isReady && props.ticket[side].serial ? ready[side].needs.find((n) => n.code === ready[side].next) : undefined
    if (need) return { side, need }
  }
  return null
})
const name = (side: 'old' | 'new') =>
  `${words.sides[side]} ${props.ticket[side].model}${props.ticket[side].port ? said.onPort(props.ticket[side].port) : ''}`
const unnamed = computed(() =>
  (['old', 'new'] as const).filter((side) => props.ticket[side].place === 'bench' && !props.ticket[side].serial),
)
const free = computed(() => (store.today?.ports ?? []).filter((p) => p.phone && !p.ticket))
const chosen = ref<Record<'old' | 'new', string>>({ old: '', new: '' })
const take = (side: 'old' | 'new') => emit('act', 'roles', ofTicket(calls.setRoles, { [`${side}Serial`]: chosen.value[side] }))
const exchange = () =>
  emit(
    'act',
    'roles',
    ofTicket(calls.setRoles, { oldSerial: props.ticket.new.serial ?? undefined, newSerial: props.ticket.old.serial ?? undefined }),
  )
/** Nothing is read or written yet, and nothing runs. */
const canRunStraight = computed(() => {
  const { ticket } = props
  return (
    !ticket.straight &&
    !ticket.run &&
    !ticket.areRolesFrozen &&
    !ticket.calledOff &&
    !ticket.signedAt &&
    ticket.old.isReady &&
    ticket.new.isReady
  )
})
const isReplacing = ref<'old' | 'new' | null>(null)
const mark = (side: 'old' | 'new') =>
  api(calls.markPort, { params: { port: props.ticket[side].port }, body: { text: words.sides[side] } }).catch(() => undefined)
/** A phone that may be the wrong one: asked about before it is named. */
const asks = ref<InstanceType<typeof RightPhoneDialog>['$props']['asks']>(null)
function takeInstead(side: 'old' | 'new') {
  const port = free.value.find(({ phone }) => phone?.serial === chosen.value[side])
  const booked = props.ticket[side].model
  const isOther = port?.phone && port.phone.model !== booked
  if (port?.phone && !asks.value && (isOther || port.seenToday)) {
    asks.value = { side, model: port.phone.model, port: port.port, seenToday: port.seenToday, booked: isOther ? booked : null }
    return
  }
  asks.value = null
  take(side)
  isReplacing.value = null
}
</script>

<template>
  <section v-if="shown" class="mb-4 border border-t-[3px] border-rule border-t-ochre bg-sheet p-3">
    <p class="mb-1.5 text-xs font-semibold text-soft">{{ name(shown.side) }}</p>
    <NeedCard
      :key="`${shown.side} ${shown.need.code}`"
      :need="shown.need"
      :side="shown.side"
      :busy="busy"
      @say="(body) => emit('act', 'need', ofTicket(calls.setNeed, body))"
    />
  </section>
  <template v-else-if="unnamed.length === 0">
    <p class="mb-4 text-verdigris">{{ said.bothPhonesAreReady }}</p>
    <div v-if="canRunStraight" class="mb-4">
      <AppButton
        look="accent"
        class="w-full"
        :busy="busy === 'straight'"
        @click="emit('act', 'straight', ofTicket(calls.straight, { on: true }))"
        >{{ common.straightThroughCountCarry }}</AppButton
      >
      <p class="mt-1 text-xs text-soft">{{ said.allThatIsWanted }}</p>
    </div>
  </template>

  <form
    v-for="side in isReplacing ? [isReplacing] : unnamed"
    :key="side"
    class="mb-3 border border-rule bg-sheet p-3"
    :aria-label="said.whichPhoneIs(side)"
    @submit.prevent="takeInstead(side)"
  >
    <label class="block">
      <span class="mb-1 block"
        >{{ said.whichPort }} <strong class="font-head">{{ words.sides[side] }}</strong> {{ said.phoneIn }}</span
      >
      <select v-model="chosen[side]" class="field">
        <option value="">—</option>
        <option v-for="p in free" :key="p.port" :value="p.phone!.serial">
          {{ said.portLine(p.port, p.phone!.model, p.phone!.serial) }}
        </option>
      </select>
    </label>
    <AppButton
      type="submit"
      class="mt-2 w-full"
      :look="isReplacing ? 'plain' : 'accent'"
      :disabled="!chosen[side]"
      :busy="busy === 'roles'"
      >{{ said.thisIsPhone(words.sides[side]) }}</AppButton
    >
  </form>

  <RightPhoneDialog :asks="asks" @no="asks = null" @yes="takeInstead(asks!.side)" />

  <div v-if="!ticket.areRolesFrozen" class="space-y-1.5">
    <AppButton
      v-if="ticket.old.serial && ticket.new.serial && ticket.old.place === 'bench' && ticket.new.place === 'bench'"
      look="quiet"
      class="w-full"
      :busy="busy === 'roles'"
      @click="exchange"
      ><ArrowLeftRight :size="14" class="mr-1 inline" aria-hidden="true" />{{ said.exchangeOldAndNew }}</AppButton
    >
    <template v-for="side in ['old', 'new'] as const" :key="side">
      <div v-if="ticket[side].place === 'bench' && ticket[side].serial" class="flex gap-1.5">
        <AppButton look="quiet" class="flex-1 text-xs" @click="isReplacing = isReplacing === side ? null : side">{{
          said.anotherPhoneIs(words.sides[side])
        }}</AppButton>
        <AppButton v-if="ticket[side].port" look="quiet" class="text-xs" @click="mark(side)">{{
          said.showOnIt(words.sides[side])
        }}</AppButton>
      </div>
    </template>
  </div>
  <p v-else class="text-xs text-soft">
    {{ said.writingHasBegun }}
  </p>
</template>
