<script setup lang="ts">
import { computed, toRef } from 'vue'
import { ChevronDown, ChevronRight } from '@lucide/vue'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import FigureButton from '../../components/base/FigureButton.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { packOf } from '../../kinds/registry.ts'
import { columns } from './ledger-columns.ts'
import type { Opened } from './opened.ts'
import { useLedgerGroups } from './use-ledger-groups.ts'
import VerdictMark from './VerdictMark.vue'
import { common } from '../../words/common.ts'
import { groupVerdict } from '../../words/standing.ts'
import { ledgerList, ledgerTable as table } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(ledgerList)

/** The ledger where a row of figures has no room: a kind each, with the counts that are not nought. */
const props = defineProps<{ rows: readonly LedgerRow[]; opened: Opened | null; canOpen: boolean; picked: string }>()
defineEmits<{ open: [kind: string, filter: EntryFilter]; account: [kind: string]; months: [kind: string] }>()
const { lines, toggle } = useLedgerGroups(
  toRef(() => props.rows),
  toRef(() => props.picked),
)
const figuresOf = (row: LedgerRow) =>
  columns.flatMap((column) => {
    const n = column.of(row)
    return n === null || (n === 0 && !column.isStrong && column.group !== 'new') ? [] : [{ column, n }]
  })
const figures = computed(() =>
  lines.value.map((line) =>
    line.as === 'group' ? { line, row: undefined, shown: [] } : { line, row: line.row, shown: figuresOf(line.row) },
  ),
)
</script>

<template>
  <ul class="space-y-3" :aria-label="common.ledger">
    <template v-for="{ line, row, shown } in figures" :key="line.key">
      <li v-if="line.as === 'group'" class="border border-rule bg-panel p-3" :data-group="line.group">
        <LinkButton class="flex items-center gap-2" :aria-expanded="line.isOpen" @click="toggle(line.group)"
          ><component :is="line.isOpen ? ChevronDown : ChevronRight" :size="16" aria-hidden="true" />{{
            table.groupOf(words.kindGroups[line.group]!, line.rows.length)
          }}</LinkButton
        >
        <p class="text-xs text-soft">{{ groupVerdict(line.rows) }}</p>
      </li>
      <li
        v-else-if="row"
        class="border border-rule bg-sheet p-3"
        :class="{ 'border-ink': rows.length > 1 && row.kind === picked }"
        :data-kind="row.kind"
        :data-verdict="row.verdict"
      >
        <div class="flex flex-wrap items-center justify-between gap-2">
          <LinkButton class="flex items-center gap-2 text-base" @click="$emit('account', row.kind)"
            ><component :is="packOf(row.kind)?.icon" :size="16" aria-hidden="true" />{{ words.kinds[row.kind] }}</LinkButton
          >
          <VerdictMark :row="row" :can-open="canOpen" @open="(filter) => $emit('open', row.kind, filter)" />
        </div>
        <dl class="mt-2 grid grid-cols-[repeat(auto-fill,minmax(8.5rem,1fr))] gap-x-4 gap-y-1">
          <div
            v-for="{ column, n } in shown"
            :key="column.key"
            class="flex items-baseline justify-between gap-2 border-b border-rule py-0.5"
          >
            <dt class="text-xs text-soft">
              <span v-if="column.group === 'new'" class="font-semibold">{{ said.new }}{{ ' ' }}</span
              >{{ column.head }}
            </dt>
            <dd :class="{ 'font-bold': column.isStrong, 'font-bold text-madder': column.isBad?.(row) }">
              <FigureButton
                :n="n"
                :can-open="canOpen"
                :data-count="column.key"
                :aria-label="said.openItems(words.kinds[row.kind]!, column.head, number(n))"
                @open="column.opens ? $emit('open', row.kind, column.opens) : $emit('account', row.kind)"
              />
            </dd>
          </div>
        </dl>
      </li>
    </template>
  </ul>
</template>
