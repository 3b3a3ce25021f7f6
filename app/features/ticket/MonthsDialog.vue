<script setup lang="ts">
import { routes } from '#contracts/http/routes.ts'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import type { MonthsView } from '#contracts/http/media.ts'
import AppDialog from '../../components/base/AppDialog.vue'
import LinkButton from '../../components/base/LinkButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { api, ApiFailure } from '../../composables/use-api.ts'
import { month, number } from '../../words/say.ts'
import { words } from '../../words/words.ts'

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
      view.value = await api(routes.months, { params: { number: props.ticket }, body: { kind: props.kind } })
    } catch (error) {
      sentence.value = error instanceof ApiFailure ? error.sentence : 'Try again.'
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
const newestFirst = computed(() => [...(view.value?.months ?? [])].reverse())
</script>

<template>
  <AppDialog open wide :title="`${words.kinds[kind]} by month, old against new`" @close="emit('close')">
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="!view" class="text-soft">Counting…</p>
    <p v-else-if="view.months.length === 0" class="text-soft">Nothing here says a date.</p>
    <template v-else>
      <MonthsChart :months="view.months" :is-checked="view.isChecked" />
      <div class="mt-3 max-h-56 overflow-y-auto border border-rule bg-sheet" tabindex="0" role="region" aria-label="The table of the chart">
        <table class="w-full text-right" aria-label="By month">
          <thead class="sticky top-0 bg-sheet text-xs text-soft">
            <tr class="border-b border-ink">
              <th scope="col" class="px-2 py-1 text-left font-normal">Month</th>
              <th scope="col" class="px-2 font-normal">Old phone</th>
              <th scope="col" class="px-2 font-normal">To arrive</th>
              <th scope="col" class="px-2 font-normal">Arrived</th>
              <th scope="col" class="px-2 font-normal">New phone holds</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="m in newestFirst"
              :key="m.month"
              class="border-b border-rule last:border-0"
              :class="{ 'font-semibold text-madder': view.isChecked && gap(m) > 0 }"
            >
              <th scope="row" class="px-2 py-0.5 text-left font-normal">
                <LinkButton :strong="false" @click="emit('month', m.month)">{{ month(m.month) }}</LinkButton>
              </th>
              <td class="px-2">{{ number(m.old) }}</td>
              <td class="px-2">{{ number(m.wanted) }}</td>
              <td class="px-2">
                {{ view.isChecked ? number(m.arrived) : '—'
                }}<template v-if="view.isChecked && gap(m) > 0"> ({{ number(-gap(m)) }})</template>
              </td>
              <td class="px-2">{{ number(m.now) }}</td>
            </tr>
          </tbody>
          <tfoot class="border-t border-ink font-bold">
            <tr>
              <th scope="row" class="px-2 py-1 text-left">All that say a date</th>
              <td class="px-2">{{ number(sums.old) }}</td>
              <td class="px-2">{{ number(sums.wanted) }}</td>
              <td class="px-2">{{ view.isChecked ? number(sums.arrived) : '—' }}</td>
              <td class="px-2">{{ number(sums.now) }}</td>
            </tr>
          </tfoot>
        </table>
      </div>
    </template>
  </AppDialog>
</template>
