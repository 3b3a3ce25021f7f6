<script setup lang="ts">
import { computed } from 'vue'
import type { EntryFilter } from '#contracts/http/ledger.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { number, reason } from '../../../words/say.ts'
import { words } from '../../../words/words.ts'
import { worstFirst } from './worst-first.ts'
import { differenceList } from '../../../words/stages.ts'
import { useSaid } from '../side-names.ts'

const said = useSaid(differenceList)

/** All kinds’ differences, or notes, at once, the worst first; each opens to its items. */
const props = defineProps<{ ticket: TicketView; only: 'differences' | 'notes' }>()
defineEmits<{ open: [filter: EntryFilter, reason: string, kind: string] }>()
const lines = computed(() => worstFirst(props.ticket.ledger, props.ticket.reasons))
const head = computed(() => (props.only === 'differences' ? said.differences : said.whatChangedOrDid))
const shown = computed(() => lines.value.filter(({ weight }) => (weight === 'difference') === (props.only === 'differences')))
const isSeveral = computed(() => props.ticket.ledger.length > 1)
</script>

<template>
  <section v-if="shown.length > 0">
    <h3 class="mb-1 font-body text-xs font-semibold text-soft">{{ head }}</h3>
    <ul class="mb-3 border border-rule bg-sheet" :aria-label="head">
      <li v-for="line in shown" :key="`${line.kind} ${line.opens} ${line.code}`" class="border-b border-rule last:border-0">
        <button
          type="button"
          class="grid w-full grid-cols-[3rem_1fr] gap-2 px-2 py-1.5 text-left hover:bg-row"
          :data-note="`${line.kind} ${line.opens}`"
          @click="$emit('open', line.opens, line.code, line.kind)"
        >
          <strong class="text-right" :class="{ 'text-madder': line.weight === 'difference' }">{{ number(line.n) }}</strong><span
            ><strong v-if="isSeveral">{{ words.kinds[line.kind] }}, </strong
            ><strong :class="line.weight === 'difference' ? 'text-madder' : 'text-soft'"
              >{{ isSeveral ? words.filters[line.opens]!.toLowerCase() : words.filters[line.opens] }}:</strong
            >
            {{ line.code ? reason(line.code) : words.meanings[line.opens] }}</span
          >
        </button>
      </li>
    </ul>
  </section>
</template>
