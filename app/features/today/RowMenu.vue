<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { Ellipsis } from '@lucide/vue'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import { canCallOff } from '../ticket/use-call-off.ts'
import { common } from '../../words/common.ts'
import { rowMenu as said } from '../../words/today.ts'

/** What can be done with a ticket without opening it. */
defineProps<{ ticket: TicketSummary }>()
const emit = defineEmits<{ callOff: [] }>()
const item = 'block w-full px-3 py-1.5 text-left'
</script>

<template>
  <Menu as="div" class="relative inline-block">
    <MenuButton class="grid size-7 place-items-center rounded-[3px] hover:bg-row" :aria-label="said.moreOf(ticket.number)"
      ><Ellipsis :size="16" aria-hidden="true"
    /></MenuButton>
    <MenuItems class="absolute right-0 z-20 mt-1 w-52 border border-ink bg-sheet py-1 text-left shadow">
      <MenuItem v-if="!ticket.erasedAt" v-slot="{ active }"
        ><NuxtLink :to="`/receipt/${ticket.number}`" :class="[item, { 'bg-row': active }]">{{ common.openReceipt }}</NuxtLink></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/sheet/${ticket.number}`" :class="[item, { 'bg-row': active }]">{{ said.openSheet }}</NuxtLink></MenuItem
      >
      <MenuItem v-slot="{ active }"
        ><NuxtLink :to="`/course/${ticket.number}`" :class="[item, { 'bg-row': active }]">{{ common.whoDidWhat }}</NuxtLink></MenuItem
      >
      <MenuItem v-if="canCallOff(ticket)" v-slot="{ active }"
        ><button type="button" :class="[item, { 'bg-row': active }]" @click="emit('callOff')">
          {{ common.callTicketOffButton }}
        </button></MenuItem
      >
    </MenuItems>
  </Menu>
</template>
