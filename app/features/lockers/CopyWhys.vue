<script setup lang="ts">
import { computed } from 'vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import DataTable from '../../components/base/DataTable.vue'
import { common } from '../../words/common.ts'
import { lockersPage as said } from '../../words/lockers.ts'
import { number, reason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { whysOf } from './copy-figures.ts'

/** Why items of a fate are not in a copy: their names went with the ticket, their reasons did not. */
const props = defineProps<{ kind: CopyView['kinds'][number]; fate: string }>()
const rows = computed(() => {
  const lines = whysOf(props.kind, props.fate)
  const sum = { key: 'sum', why: common.all, items: lines.reduce((all, { items }) => all + items, 0), isSum: true }
  return [
    ...lines.map(({ codes, items }) => ({
      key: codes.join(' '),
      why: codes.map((code) => reason(code)).join('; ') || (props.fate === 'notChosen' ? said.byChoice : said.noReason),
      items,
      isSum: false,
    })),
    sum,
  ]
})
const label = computed(() => said.whyOf(words.filters[props.fate] ?? props.fate, words.kinds[props.kind.kind] ?? props.kind.kind))
</script>

<template>
  <div class="mt-3 border-t border-rule pt-2" data-testid="copy-whys">
    <p class="mb-1 font-semibold">{{ label }}</p>
    <DataTable
      :label="label"
      :rows="rows"
      :key-of="(row) => row.key"
      :row-of="(row) => ({ isSum: row.isSum })"
      :columns="[
        { key: 'why', head: said.whyHeads.why, names: true },
        { key: 'items', head: said.whyHeads.items, isRight: true },
      ]"
    >
      <template #why="{ row }">{{ row.why }}</template>
      <template #items="{ row }">{{ number(row.items) }}</template>
    </DataTable>
    <p v-if="fate === 'unreadable' && kind.unread > 0" class="mt-1 text-soft">{{ said.keptUnread(number(kind.unread)) }}</p>
  </div>
</template>
