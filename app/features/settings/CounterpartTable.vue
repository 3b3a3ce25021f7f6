<script setup lang="ts">
import type { SettingsView } from '#contracts/http/shop.ts'
import DataTable from '../../components/base/DataTable.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { counterpartTable as said } from '../../words/settings.ts'

/** What the shop remembers of apps’ counterparts: it counts before the catalogue’s own suggestion. */
type Remembered = SettingsView['counterparts'][number]
defineProps<{ counterparts: readonly Remembered[] }>()
const emit = defineEmits<{ correct: [row: Remembered, counterpartId: string | null]; forget: [row: Remembered] }>()
const chosen = (row: Remembered, event: Event) => emit('correct', row, (event.target as HTMLSelectElement).value || null)
</script>

<template>
  <p v-if="counterparts.length === 0" class="border border-rule bg-sheet p-4 text-soft">
    {{ said.nothingYet }}
  </p>
  <DataTable
    v-else
    :label="said.counterparts"
    :rows="counterparts"
    :key-of="(row) => `${row.appId} ${row.platform}`"
    :columns="[
      { key: 'app', head: common.app, names: true },
      { key: 'on', head: common.on },
      { key: 'standsIn', head: said.whatStandsIn },
      { key: 'by', head: said.saidBy, class: 'text-soft' },
      { key: 'forget', head: said.forgetHead, isHeadHidden: true, isRight: true },
    ]"
  >
    <template #app="{ row }"
      ><strong>{{ row.name ?? row.appId }}</strong></template
    >
    <template #on="{ row }">{{ words.platforms[row.platform] }}</template>
    <template #standsIn="{ row }">
      <select
        class="field text-xs"
        :aria-label="said.whatStandsInFor(row.name ?? row.appId)"
        :value="row.counterpartId ?? ''"
        @change="chosen(row, $event)"
      >
        <option value="">{{ common.none }}</option>
        <option v-if="row.counterpartId && !row.candidates.some(({ id }) => id === row.counterpartId)" :value="row.counterpartId">
          {{ row.counterpartName ?? row.counterpartId }}
        </option>
        <option v-for="candidate in row.candidates" :key="candidate.id" :value="candidate.id">{{ candidate.name }}</option>
      </select>
    </template>
    <template #by="{ row }">{{ row.by }}</template>
    <template #forget="{ row }">
      <SmallButton :aria-label="said.forgetOne(row.name ?? row.appId)" @click="emit('forget', row)">{{ said.forgetHead }}</SmallButton>
    </template>
  </DataTable>
</template>
