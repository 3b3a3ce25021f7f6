<script setup lang="ts">
import { computed, ref, toRef, watch } from 'vue'
import { refDebounced } from '@vueuse/core'
import type { GroupRow, LedgerRow } from '#contracts/http/ledger.ts'
import ListPanel from '../../components/base/ListPanel.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import VirtualList from '../../components/base/VirtualList.vue'
import { month, number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import GroupLine from './GroupLine.vue'
import { openedItems, wholeOf, type GroupedBy, type Opened } from './opened.ts'
import ShowNames from './ShowNames.vue'
import { useShown } from './use-shown.ts'
import { useGroups } from './use-groups.ts'
import { common } from '../../words/common.ts'
import { groupsPanel } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(groupsPanel)

/** The slices a kind is counted by: conversations, calendars, months. Each opens to its items, and is carried or left as a whole. */
const props = defineProps<{
  ticket: string
  row: LedgerRow
  open: Opened & { what: 'groups' }
  canChoose: boolean
  showingUntil: string | null
  stamp: string
}>()
const emit = defineEmits<{
  close: []
  open: [next: Opened, title?: string]
  show: []
  slice: [slice: { group: string; when: string; isChosen: boolean }]
}>()

const text = ref('')
const searched = refDebounced(text, 180)
const wish = computed(() => {
  const { kind, side, by } = props.open
  return { kind, side, by, text: by === 'group' ? searched.value : '' }
})
const { rows, total, isShowing: isGiven, sentence, more, refresh } = useGroups(toRef(props, 'ticket'), wish)
const isShowing = useShown(toRef(props, 'showingUntil'), isGiven)
watch(
  () => [props.stamp, props.showingUntil],
  () => void refresh(),
)
watch(
  () => props.showingUntil,
  (until) => {
    if (!until) text.value = ''
  },
)
const groups = computed(() => words.groups[props.open.kind])
const isOld = computed(() => props.open.side === 'old')
const isGroup = computed(() => props.open.by === 'group')
const slice = (row: GroupRow) => (isGroup.value ? { group: row.key, when: '' } : { group: '', when: row.key })
/** “November 2026”, “2026” */
const span = (key: string) => (key.length > 4 ? month(key) : key)
const titleOf = (row: GroupRow) => (isGroup.value ? row.title || (groups.value?.nameless ?? common.noName) : span(row.key))
const openItems = (row: GroupRow) => {
  const { kind, side } = props.open
  emit('open', openedItems(kind, wholeOf(props.row, side), slice(row)), isGroup.value ? (row.title ?? '') : span(row.key))
}
const bys = computed((): [GroupedBy, string][] => [
  ...(groups.value ? [['group', groups.value.title] as [GroupedBy, string]] : []),
  ['month', common.byMonth],
  ['year', said.byYear],
])
const unit = computed(() => {
  if (props.open.by !== 'group') return said.spans[props.open.by](total.value ?? 0)
  return (total.value === 1 ? groups.value?.one : groups.value?.many) ?? ''
})
</script>

<template>
  <ListPanel head="groups-head" :close="common.closeList" @close="emit('close')">
    <template #title>
      {{ said.ofPhone(words.kinds[open.kind]!, isOld)
      }}<template v-if="total !== null"
        >: <span data-testid="groups-total">{{ number(total) }}</span> {{ unit }}</template
      >
    </template>
    <div class="my-2 flex gap-1.5" role="group" :aria-label="said.countedBy">
      <SmallButton v-for="[by, name] in bys" :key="by" :pressed="open.by === by" @click="emit('open', { ...open, by })">{{
        name
      }}</SmallButton>
    </div>
    <template v-if="isGroup">
      <label v-if="isShowing" class="mb-1.5 block"
        ><span class="sr-only">{{ said.search(groups?.many ?? '') }}</span>
        <input v-model="text" type="search" class="field text-xs" :placeholder="said.searchHint" autocomplete="off" />
      </label>
      <ShowNames v-else @click="emit('show')" />
    </template>
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="total === 0" class="p-3 text-soft">{{ common.nothingHere }}</p>
    <VirtualList
      :count="rows.length"
      :row-height="50"
      :key-of="(i) => rows[i]!.key"
      :label="isGroup ? (groups?.title ?? said.slices) : said.spansOfTime"
      @more="more()"
    >
      <template #default="{ index, stop }">
        <GroupLine
          v-if="rows[index]"
          :row="rows[index]!"
          :name="isGroup && !isShowing ? null : titleOf(rows[index]!)"
          :called="isGroup ? `${groups!.one} ${index + 1}` : titleOf(rows[index]!)"
          :seed="index"
          :is-whole="isGroup"
          :can-choose="canChoose && isOld"
          :stop="stop"
          @choose="(isChosen) => emit('slice', { ...slice(rows[index]!), isChosen })"
          @open="openItems(rows[index]!)"
        />
      </template>
    </VirtualList>
  </ListPanel>
</template>
