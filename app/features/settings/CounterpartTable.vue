<script setup lang="ts">
import type { SettingsView } from '#contracts/http/shop.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { shortMoment } from '../../words/say.ts'
import { words } from '../../words/words.ts'

/** What the shop remembers of apps’ counterparts: it counts before the catalogue’s own suggestion. */
type Remembered = SettingsView['counterparts'][number]
defineProps<{ counterparts: readonly Remembered[]; zone: string }>()
const emit = defineEmits<{ correct: [row: Remembered, counterpartId: string | null]; forget: [row: Remembered] }>()
const chosen = (row: Remembered, event: Event) => emit('correct', row, (event.target as HTMLSelectElement).value || null)
</script>

<template>
  <p v-if="counterparts.length === 0" class="border border-rule bg-sheet p-4 text-soft">
    Nothing yet. What is chosen on a ticket’s apps to stand in for another is remembered here.
  </p>
  <table v-else class="w-full border border-rule bg-sheet text-left" aria-label="Counterparts">
    <thead class="border-b border-ink text-xs text-soft">
      <tr>
        <th scope="col" class="px-3 py-1 font-normal">App</th>
        <th scope="col" class="px-3 py-1 font-normal">On</th>
        <th scope="col" class="px-3 py-1 font-normal">What stands in</th>
        <th scope="col" class="px-3 py-1 font-normal">Said by</th>
        <th scope="col"><span class="sr-only">Forget</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in counterparts" :key="`${row.appId} ${row.platform}`" class="border-b border-rule last:border-0">
        <th scope="row" class="px-3 py-1.5 font-semibold">{{ row.name ?? row.appId }}</th>
        <td class="px-3">{{ words.platforms[row.platform] }}</td>
        <td class="px-3 py-1">
          <select
            class="field text-xs"
            :aria-label="`What stands in for ${row.name ?? row.appId}`"
            :value="row.counterpartId ?? ''"
            @change="chosen(row, $event)"
          >
            <option value="">None</option>
            <option v-if="row.counterpartId && !row.candidates.some(({ id }) => id === row.counterpartId)" :value="row.counterpartId">
              {{ row.counterpartName ?? row.counterpartId }}
            </option>
            <option v-for="candidate in row.candidates" :key="candidate.id" :value="candidate.id">{{ candidate.name }}</option>
          </select>
        </td>
        <td class="px-3 text-soft">{{ row.by }}, {{ shortMoment(row.at, zone) }}</td>
        <td class="px-3 text-right">
          <SmallButton :aria-label="`Forget ${row.name ?? row.appId}`" @click="emit('forget', row)">Forget</SmallButton>
        </td>
      </tr>
    </tbody>
  </table>
</template>
