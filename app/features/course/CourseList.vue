<script setup lang="ts">
import type { ActView } from '#contracts/http/course.ts'
import { actLine } from '../../words/course.ts'
import { shortMoment } from '../../words/say.ts'

/** The course of a ticket, a line an act, the oldest first. */
defineProps<{ acts: readonly ActView[]; zone: string }>()
const by = (act: ActView) =>
  act.by ?? (act.what === 'ended' || act.what === 'waits' || act.what === 'voided' || act.what === 'straight-stopped' ? 'by itself' : '—')
</script>

<template>
  <table class="w-full border border-rule bg-sheet text-left print:border-0" aria-label="The course">
    <thead class="border-b border-ink text-xs text-soft">
      <tr>
        <th scope="col" class="w-36 px-3 py-1.5 font-normal max-md:w-20 max-md:px-2">When</th>
        <th scope="col" class="px-3 py-1.5 font-normal">What</th>
        <th scope="col" class="w-28 px-3 py-1.5 font-normal max-md:w-16 max-md:px-2">Who</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(act, i) in acts" :key="i" class="border-b border-rule align-baseline last:border-0" :data-act="act.what">
        <td class="px-3 py-1.5 whitespace-nowrap text-soft max-md:px-2 max-md:text-xs max-md:whitespace-normal print:py-0.5">
          {{ shortMoment(act.at, zone) }}
        </td>
        <td class="px-3 py-1.5 print:py-0.5">
          {{ actLine(act) }}<template v-if="act.words">: “{{ act.words }}”</template
          ><span v-else-if="act.hasWords" class="text-soft"> (words erased)</span>
        </td>
        <td
          class="px-3 py-1.5 whitespace-nowrap max-md:px-2 max-md:text-xs max-md:whitespace-normal print:py-0.5"
          :class="{ 'text-soft': !act.by }"
        >
          {{ by(act) }}
        </td>
      </tr>
    </tbody>
  </table>
</template>
