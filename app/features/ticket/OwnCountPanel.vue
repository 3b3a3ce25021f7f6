<script setup lang="ts">
import { computed } from 'vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import FigureButton from '../../components/base/FigureButton.vue'
import ListPanel from '../../components/base/ListPanel.vue'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { openedItems, wholeOf, type Opened } from './opened.ts'
import { derivedFigures, shownFigure } from './figures.ts'

/** What a phone's own count is made of: the items it listed, and the entries it counts though nobody stored them. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; side: 'old' | 'new' }>()
const emit = defineEmits<{ close: []; open: [next: Opened] }>()
const phone = computed(() => props.ticket[props.side])
const listed = computed<{ n: number; opens: EntryFilter }>(() =>
  props.side === 'old' ? { n: props.row.old.read, opens: 'read' } : { n: props.row.new.last ?? 0, opens: 'last' },
)
const derived = computed(() => derivedFigures(props.row, props.side))
const own = computed(() => (props.side === 'old' ? props.row.old.own : props.row.new.own) ?? 0)
const persons = computed(() => shownFigure(props.row, props.side, 'persons'))
</script>

<template>
  <ListPanel head="own-head" close="Close the count" @close="emit('close')">
    <template #title>{{ words.kinds[row.kind] }}: what the {{ side === 'old' ? 'OLD' : 'NEW' }} {{ phone.model }} counts</template>
    <table class="mt-3 w-full border border-rule bg-sheet" aria-label="Own count">
      <tbody>
        <tr>
          <th scope="row" class="px-2.5 py-1 text-left font-normal">Listed, item by item</th>
          <td class="px-2.5 text-right">
            <FigureButton :n="listed.n" @open="emit('open', openedItems(row.kind, listed.opens))" />
          </td>
        </tr>
        <tr v-if="row.new.parts > 0 && side === 'new'">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">Further records of items</th>
          <td class="px-2.5 text-right">
            <FigureButton :n="row.new.parts" @open="emit('open', openedItems(row.kind, 'parts'))" />
          </td>
        </tr>
        <tr v-for="d in derived" :key="d.of">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">
            {{ words.derived[d.of] ?? d.of }}<span class="block text-xs text-soft">{{ words.derivedMeanings[d.of] }}</span>
          </th>
          <td class="px-2.5 text-right align-top">
            <FigureButton
              :n="d.n"
              :can-open="d.opens?.as === 'facet'"
              @open="emit('open', openedItems(row.kind, wholeOf(row, side), { facet: d.opens!.name! }))"
            />
          </td>
        </tr>
        <tr class="border-t border-ink font-bold">
          <th scope="row" class="px-2.5 py-1 text-left">Its own count</th>
          <td class="px-2.5 text-right">{{ number(own) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="persons !== undefined" class="mt-2 text-soft">
      Its own screen shows {{ number(persons) }}: linked records are shown there as one person.
    </p>
  </ListPanel>
</template>
