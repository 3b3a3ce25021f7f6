<script setup lang="ts">
import type { TicketCall } from './ticket-call.ts'
import { ref } from 'vue'
import { ArrowRight } from '@lucide/vue'
import type { PhoneOnTicket, TicketView } from '#contracts/http/ticket.ts'
import { bytes, promise, untilPromise } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { copyLineOf, homeLineOf } from '../../words/copy-line.ts'
import { needLine } from '../../words/standing.ts'
import CourseMenu from './CourseMenu.vue'
import { ticketHead } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(ticketHead)

const props = defineProps<{ ticket: TicketView; zone: string; now: number; busy: string }>()
defineEmits<{ act: [name: string, call: TicketCall] }>()
const menu = ref<InstanceType<typeof CourseMenu>>()
defineExpose({ askKinds: () => menu.value?.ask('kinds') })
/** Before they are handed back, phones are as they are to be: nothing is needed of them any more. */
const lacks = (phone: PhoneOnTicket) => !phone.isReady && props.ticket.stage !== 'hand-back'
function state(phone: PhoneOnTicket): string {
  if (phone.place === 'file') return said.readFromFile
  if (phone.place === 'folder') return homeLineOf(phone)
  if (phone.copy) return copyLineOf(phone.copy, props.ticket.isLook ? 'old' : phone.side)
  if (lacks(phone)) return needLine(phone) || said.notReady
  // in no port any more, nobody knows how it stands
  const charge = phone.batteryPercent === null ? '' : said.charge(phone.batteryPercent)
  const free = phone.side === 'new' && phone.freeBytes !== null ? said.free(bytes(phone.freeBytes)) : ''
  return `${words.platforms[phone.platform]} ${phone.version}${charge}${free}`
}
</script>

<template>
  <header class="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule bg-panel px-6 py-2.5 max-md:px-3">
    <h1 class="text-xl">
      {{ ticket.number }} <span class="ml-1 font-body text-sm font-normal text-soft">{{ ticket.customer }}</span>
    </h1>
    <div class="flex flex-wrap items-center gap-2">
      <template v-for="phone in ticket.new.place === 'nothing' ? [ticket.old] : [ticket.old, ticket.new]" :key="phone.side">
        <ArrowRight v-if="phone.side === 'new' && !ticket.isLook" :size="16" :aria-label="said.to" />
        <div class="flex items-center gap-2.5 border border-rule bg-sheet px-2.5 py-1.5">
          <strong v-if="!ticket.isLook" class="font-head text-lg leading-none">{{ words.sides[phone.side] }}</strong>
          <div class="leading-tight">
            <div>
              <strong>{{ phone.model }}</strong> <span v-if="phone.port">{{ said.port(phone.port) }}</span>
            </div>
            <div class="text-xs" :class="lacks(phone) ? 'font-semibold text-ochre' : 'text-soft'">{{ state(phone) }}</div>
          </div>
        </div>
      </template>
    </div>
    <div v-if="!ticket.isLook" class="ml-auto text-right leading-tight text-soft">
      <div v-if="ticket.handedBackAt">{{ said.handedBack(promise(ticket.handedBackAt, zone, now)) }}</div>
      <div v-else>
        {{ said.promised(promise(ticket.promisedAt, zone, now)) }}
        <strong class="text-ink">{{ untilPromise(ticket.promisedAt, now) }}</strong>
      </div>
      <div class="text-xs">{{ ticket.waitsInShop ? said.waitsInShop : said.comesBack }} · {{ ticket.heldBy }}</div>
    </div>
    <CourseMenu v-if="!ticket.isLook" ref="menu" :ticket="ticket" :busy="busy" @act="(n, call) => $emit('act', n, call)" />
    <p v-if="ticket.lastNote && !ticket.erasedAt" class="w-full truncate text-xs" data-testid="last-note">
      <strong>{{ said.note }}</strong> {{ ticket.lastNote }}
    </p>
  </header>
</template>
