<script setup lang="ts">
import { calls } from '#contracts/http/calls.ts'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import type { MonthsView } from '#contracts/http/media.ts'
import DataTable from '../../components/base/DataTable.vue'
import AppDialog from '../../components/base/AppDialog.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, sentenceOf } from '../../composables/use-api.ts'
import { month, number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { monthsDialog } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(monthsDialog)

/** A kind by month, old against new: the chart and its table. */
const props = defineProps<{ ticket: string; kind: string }>()
const emit = defineEmits<{ close: []; month: [key: string] }>()
// the chart library is large, and few look at it
const MonthsChart = defineAsyncComponent(() => import('./MonthsChart.vue'))
const view = ref<MonthsView | null>(null)
const sentence = ref('')
watch(
  () => props.kind,
  async () => {
    try {
      view.value = await api(calls.months, { params: { number: props.ticket }, body: { kind: props.kind } })
    } catch (error) {
      sentence.value = sentenceOf(error)
    }
  },
  { immediate: true },
)
const gap = (m: MonthsView['months'][number]) => m.wanted - m.arrived
const sums = computed(() =>
  (view.value?.months ?? []).reduce(
    (all, m) => ({ old: all.old + m.old, wanted: all.wanted + m.wanted, arrived: all.arrived + m.arrived, now: all.now + m.now }),
    { old: 0, wanted: 0, arrived: 0, now: 0 },
  ),
)
const columns = [
  { key: 'month', head: said.month, names: true },
  { key: 'old', head: common.oldPhone, isRight: true },
  { key: 'wanted', head: said.toArrive, isRight: true },
  { key: 'arrived', head: said.arrived, isRight: true },
  { key: 'now', head: said.newPhoneHolds, isRight: true },
]
const newestFirst = computed(() => [...(view.value?.months ?? [])].reverse())
</script>

<template>
  <AppDialog open wide :title="said.byMonthOldAgainst(words.kinds[kind]!)" @close="emit('close')">
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="!view" class="text-soft">{{ said.counting }}</p>
    <p v-else-if="view.months.length === 0" class="text-soft">{{ said.nothingHereSaysDate }}</p>
    <template v-else>
      <MonthsChart :months="view.months" :is-checked="view.isChecked" />
      <div class="mt-3 max-h-56 overflow-y-auto border border-rule bg-sheet" tabindex="0" role="region" :aria-label="said.tableOfChart">
        <DataTable
          class="border-0"
          is-head-stuck
          :label="common.byMonth"
          :rows="newestFirst"
          :key-of="(m) => m.month"
          :row-of="(m) => ({ class: view!.isChecked && gap(m) > 0 ? 'font-semibold text-madder' : '' })"
          :columns="columns"
        >
          <template #month="{ row: m }">
            <LinkButton :strong="false" @click="emit('month', m.month)">{{ month(m.month) }}</LinkButton>
          </template>
          <template #old="{ row: m }">{{ number(m.old) }}</template>
          <template #wanted="{ row: m }">{{ number(m.wanted) }}</template>
          <template #arrived="{ row: m }"
            >{{ view!.isChecked ? number(m.arrived) : '—'
            }}<template v-if="view!.isChecked && gap(m) > 0"> ({{ number(-gap(m)) }})</template></template
          >
          <template #now="{ row: m }">{{ number(m.now) }}</template>
          <template #foot>
            <tr class="border-t border-ink text-right font-bold">
              <th scope="row" class="px-2.5 py-1 text-left">{{ said.allThatSayDate }}</th>
              <td class="px-2.5">{{ number(sums.old) }}</td>
              <td class="px-2.5">{{ number(sums.wanted) }}</td>
              <td class="px-2.5">{{ view.isChecked ? number(sums.arrived) : '—' }}</td>
              <td class="px-2.5">{{ number(sums.now) }}</td>
            </tr>
          </template>
        </DataTable>
      </div>
    </template>
  </AppDialog>
</template>
