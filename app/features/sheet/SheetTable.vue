<script setup lang="ts">
import { computed } from 'vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { columnsFor } from '../ticket/ledger-columns.ts'
import { verdictWord } from '../../words/standing.ts'
import { common } from '../../words/common.ts'
import { sheetTable } from '../../words/sheet.ts'
import { useSaid } from '../ticket/side-names.ts'

const said = useSaid(sheetTable)

/** The ledger on paper. */
const props = defineProps<{ ledger: readonly LedgerRow[] }>()
/** Columns that are empty for every kind fold away, as they do on the ticket. */
const columns = computed(() => columnsFor(props.ledger))
</script>

<template>
  <table class="mb-2 w-full border border-rule text-right text-[0.78rem]">
    <thead class="border-b border-ink align-bottom text-[0.7rem] text-soft">
      <tr>
        <th scope="col" class="px-1.5 py-1 text-left font-normal">{{ common.kind }}</th>
        <th v-for="c in columns" :key="c.key" scope="col" class="px-1 font-normal">{{ c.head }}</th>
        <th scope="col" class="px-1.5 text-left font-normal">{{ common.verdict }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in ledger" :key="row.kind">
        <th scope="row" class="px-1.5 py-2 text-left print:py-0.5">{{ words.kinds[row.kind] }}</th>
        <td v-for="c in columns" :key="c.key" class="px-1">
          <span :class="{ 'double-rule': c.key === 'last' && row.verdict.startsWith('agrees'), 'font-bold': c.isStrong }">{{
            c.of(row) === null ? '—' : number(c.of(row)!)
          }}</span>
        </td>
        <td class="min-w-[4.8rem] px-1.5 text-left text-[0.7rem] leading-tight font-semibold print:text-[0.62rem] print:leading-none">
          {{ verdictWord(row) }}
        </td>
      </tr>
    </tbody>
  </table>
  <p class="mb-5 text-xs text-soft print:mb-2 print:text-[0.6rem] print:leading-tight">
    {{ said.howToRead }}
  </p>
</template>
