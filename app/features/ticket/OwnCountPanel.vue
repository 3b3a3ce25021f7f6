<script setup lang="ts">
import { computed } from 'vue'
import { X } from '@lucide/vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { derivedFigures, shownFigure } from './figures.ts'

/** What a phone's own count is made of: the items it listed, and the entries it counts though nobody stored them. */
const props = defineProps<{ ticket: TicketView; row: LedgerRow; side: 'old' | 'new' }>()
const emit = defineEmits<{ close: []; open: [filter: EntryFilter]; sum: [facet: string] }>()
const phone = computed(() => props.ticket[props.side])
const listed = computed<{ n: number; opens: EntryFilter }>(() =>
  props.side === 'old' ? { n: props.row.old.read, opens: 'read' } : { n: props.row.new.last ?? 0, opens: 'last' },
)
const derived = computed(() => derivedFigures(props.row, props.side))
const own = computed(() => (props.side === 'old' ? props.row.old.own : props.row.new.own) ?? 0)
const persons = computed(() => shownFigure(props.row, props.side, 'persons'))
</script>

<template>
  <section aria-labelledby="own-head" @keydown.esc="emit('close')">
    <div class="flex items-start justify-between gap-2">
      <h2 id="own-head" class="text-[0.95rem]">
        {{ words.kinds[row.kind] }}: what the {{ side === 'old' ? 'OLD' : 'NEW' }} {{ phone.model }} counts
      </h2>
      <button type="button" class="p-1" aria-label="Close the count" @click="emit('close')"><X :size="16" aria-hidden="true" /></button>
    </div>
    <table class="mt-3 w-full border border-rule bg-sheet" aria-label="Own count">
      <tbody>
        <tr>
          <th scope="row" class="px-2.5 py-1 text-left font-normal">Listed, item by item</th>
          <td class="px-2.5 text-right">
            <button
              type="button"
              class="underline decoration-rule underline-offset-2 hover:decoration-ink"
              @click="emit('open', listed.opens)"
            >
              {{ number(listed.n) }}
            </button>
          </td>
        </tr>
        <tr v-if="row.new.parts > 0 && side === 'new'">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">Further records of items</th>
          <td class="px-2.5 text-right">
            <button type="button" class="underline decoration-rule underline-offset-2 hover:decoration-ink" @click="emit('open', 'parts')">
              {{ number(row.new.parts) }}
            </button>
          </td>
        </tr>
        <tr v-for="d in derived" :key="d.of">
          <th scope="row" class="px-2.5 py-1 text-left font-normal">
            {{ words.derived[d.of] ?? d.of }}<span class="block text-xs text-soft">{{ words.derivedMeanings[d.of] }}</span>
          </th>
          <td class="px-2.5 text-right align-top">
            <button
              v-if="d.opens?.as === 'facet'"
              type="button"
              class="underline decoration-rule underline-offset-2 hover:decoration-ink"
              @click="emit('sum', d.opens.name!)"
            >
              {{ number(d.n) }}</button><template v-else>{{ number(d.n) }}</template>
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
  </section>
</template>
