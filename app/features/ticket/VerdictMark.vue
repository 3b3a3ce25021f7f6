<script setup lang="ts">
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import StateMark from '../../components/base/StateMark.vue'
import { words } from '../../words/words.ts'
import { differences, verdictTone, verdictWord } from '../../words/standing.ts'
import { verdictMark } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(verdictMark)

/** The verdict of a kind; what differs opens from it. */
defineProps<{ row: LedgerRow; canOpen: boolean }>()
defineEmits<{ open: [filter: EntryFilter] }>()
</script>

<template>
  <StateMark :tone="verdictTone(row)" class="dense:px-1 dense:leading-tight dense:whitespace-normal"
    ><template v-if="canOpen && differences(row).length > 0"
      ><span v-if="row.verdict === 'accepted'">{{ said.accepted }}{{ ' ' }}</span
      ><template v-for="(d, i) in differences(row)" :key="d.opens"
        ><span class="whitespace-nowrap"
          ><button
            type="button"
            class="min-h-6 underline underline-offset-2"
            :data-difference="d.opens"
            :aria-label="said.openItems(words.kinds[row.kind]!, d.say)"
            @click="$emit('open', d.opens)"
          >
            {{ d.say }}</button
          >{{ i < differences(row).length - 1 ? ',' : '' }}</span
        >{{ ' ' }}</template
      ></template
    ><span v-else class="whitespace-nowrap denser:whitespace-normal">{{ verdictWord(row) }}</span></StateMark
  >
</template>
