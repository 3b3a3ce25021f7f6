<script setup lang="ts">
import type { SettingsView } from '#contracts/http/shop.ts'
import DataTable from '../../components/base/DataTable.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { words } from '../../words/words.ts'

/** What the shop remembers of apps’ counterparts: it counts before the catalogue’s own suggestion. */
type Remembered = SettingsView['counterparts'][number]
defineProps<{ counterparts: readonly Remembered[] }>()
const emit = defineEmits<{ correct: [row: Remembered, counterpartId: string | null]; forget: [row: Remembered] }>()
const chosen = (row: Remembered, event: Event) => emit('correct', row, (event.target as HTMLSelectElement).value || null)
</script>

<template>
  <p v-if="counterparts.length === 0" class="border border-rule bg-sheet p-4 text-soft">
    Nothing yet. What is chosen on a ticket’s apps to stand in for another is remembered here.
  </p>
  <DataTable
    v-else
    label="Counterparts"
    :rows="counterparts"
    :key-of="(row) => `${row.appId} ${row.platform}`"
    :columns="[
      { key: 'app', head: 'App', names: true },
      { key: 'on', head: 'On' },
      { key: 'standsIn', head: 'What stands in' },
      { key: 'by', head: 'Said by', class: 'text-soft' },
      { key: 'forget', head: 'Forget', isHeadHidden: true, isRight: true },
    ]"
  >
    <template #app="{ row }"
      ><strong>{{ row.name ?? row.appId }}</strong></template
    >
    <template #on="{ row }">{{ words.platforms[row.platform] }}</template>
    <template #standsIn="{ row }">
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
    </template>
    <template #by="{ row }">{{ row.by }}</template>
    <template #forget="{ row }">
      <SmallButton :aria-label="`Forget ${row.name ?? row.appId}`" @click="emit('forget', row)">Forget</SmallButton>
    </template>
  </DataTable>
</template>
