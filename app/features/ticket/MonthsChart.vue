<script setup lang="ts">
import { computed } from 'vue'
import { use } from 'echarts/core'
import { BarChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent, DataZoomComponent } from 'echarts/components'
import { CanvasRenderer } from 'echarts/renderers'
import VChart from 'vue-echarts'
import type { MonthsView } from '#contracts/http/media.ts'
import { common } from '../../words/common.ts'
import { monthsChart } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(monthsChart)

use([BarChart, GridComponent, LegendComponent, TooltipComponent, DataZoomComponent, CanvasRenderer])

/** Months side by side: what should be over, and what is found on the new phone. */
const props = defineProps<{ months: MonthsView['months']; isChecked: boolean }>()
/** Every month of the span, the empty ones, too: a gap must be seen as one. */
const span = computed(() => {
  const [first, last] = [props.months[0]?.month, props.months.at(-1)?.month]
  if (!first || !last) return []
  const known = new Map(props.months.map((m) => [m.month, m]))
  const out: MonthsView['months'] = []
  for (
    let [y, m] = first.split('-').map(Number) as [number, number];
    `${y}-${String(m).padStart(2, '0')}` <= last && out.length < 1200;
    m === 12 ? (y++, (m = 1)) : m++
  ) {
    const month = `${y}-${String(m).padStart(2, '0')}`
    out.push(known.get(month) ?? { month, old: 0, wanted: 0, arrived: 0, now: 0 })
  }
  return out
})
const option = computed(() => ({
  animation: false,
  color: ['#4a5661', '#27655a'],
  textStyle: { fontFamily: 'Public Sans Variable, sans-serif' },
  grid: { left: 44, right: 12, top: 34, bottom: 58 },
  legend: { top: 0, left: 0, data: [common.oldPhone, props.isChecked ? said.newPhoneLastCount : said.newPhoneFirstCount] },
  tooltip: { trigger: 'axis' },
  dataZoom:
    span.value.length > 36
      ? [
          {
            type: 'slider',
            height: 18,
            bottom: 6,
            startValue: Math.max(0, span.value.length - 36),
            endValue: span.value.length - 1,
            showDetail: false,
            brushSelect: false,
            moveHandleSize: 0,
            borderColor: '#d9d5c7',
            backgroundColor: '#fcfbf7',
            fillerColor: 'rgba(39,101,90,0.12)',
            handleStyle: { color: '#faf8f2', borderColor: '#4a5661' },
            dataBackground: { lineStyle: { color: '#d9d5c7' }, areaStyle: { color: '#efeadb' } },
            selectedDataBackground: { lineStyle: { color: '#27655a' }, areaStyle: { color: '#edf4f0' } },
          },
        ]
      : [],
  xAxis: {
    type: 'category',
    data: span.value.map((m) => m.month),
    axisLabel: { color: '#4a5661' },
    axisLine: { lineStyle: { color: '#17212b' } },
  },
  yAxis: { type: 'value', minInterval: 1, splitLine: { lineStyle: { color: '#d9d5c7' } }, axisLabel: { color: '#4a5661' } },
  series: [
    { name: common.oldPhone, type: 'bar', barGap: '0%', data: span.value.map((m) => m.old) },
    { name: props.isChecked ? said.newPhoneLastCount : said.newPhoneFirstCount, type: 'bar', data: span.value.map((m) => m.now) },
  ],
}))
</script>

<template>
  <!-- the chart fills its box; it has no height of its own -->
  <div class="h-[240px]" data-testid="months-chart"><VChart :option="option" autoresize aria-hidden="true" /></div>
</template>
