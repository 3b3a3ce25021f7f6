<script setup lang="ts">
import type { ActView } from '#contracts/http/course.ts'
import DataTable from '../../components/base/DataTable.vue'
import { actLine } from '../../words/course.ts'
import { shortMoment } from '../../words/say.ts'
import { common } from '../../words/common.ts'
import { courseList as said } from '../../words/course.ts'

/** The course of a ticket, a line an act, the oldest first. */
defineProps<{ acts: readonly ActView[]; zone: string }>()
const by = (act: ActView) =>
  act.by ?? (act.what === 'ended' || act.what === 'waits' || act.what === 'voided' || act.what === 'straight-stopped' ? said.byItself : '—')
</script>

<template>
  <DataTable
    class="print:border-0"
    :label="said.course"
    :rows="acts"
    :key-of="(_, i) => i"
    :row-of="(act) => ({ 'data-act': act.what })"
    :columns="[
      {
        key: 'when',
        head: said.when,
        class: 'w-36 whitespace-nowrap text-soft max-md:w-20 max-md:text-xs max-md:whitespace-normal print:py-0.5',
      },
      { key: 'what', head: said.what, class: 'wrap-anywhere print:py-0.5' },
      { key: 'who', head: common.who, class: 'w-28 whitespace-nowrap max-md:w-16 max-md:text-xs max-md:whitespace-normal print:py-0.5' },
    ]"
  >
    <template #when="{ row: act }">{{ shortMoment(act.at, zone) }}</template>
    <template #what="{ row: act }"
      >{{ actLine(act) }}<template v-if="act.words">: “{{ act.words }}”</template
      ><span v-else-if="act.hasWords" class="text-soft">{{ ' ' }}{{ said.wordsErased }}</span></template
    >
    <template #who="{ row: act }"
      ><span :class="{ 'text-soft': !act.by }">{{ by(act) }}</span></template
    >
  </DataTable>
</template>
