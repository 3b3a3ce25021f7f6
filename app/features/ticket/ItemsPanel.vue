<script setup lang="ts">
import { computed, ref, toRef, watch } from 'vue'
import { refDebounced } from '@vueuse/core'
import type { EntryFilter, EntryRow, LedgerRow } from '#contracts/http/ledger.ts'
import LinkButton from '../../components/base/LinkButton.vue'
import ListPanel from '../../components/base/ListPanel.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import VirtualList from '../../components/base/VirtualList.vue'
import { month, number, reason as sayReason } from '../../words/say.ts'
import { useSaid, useSideNames } from './side-names.ts'
import { words } from '../../words/words.ts'
import { packOf } from '../../kinds/registry.ts'
import EntryLine from './EntryLine.vue'
import ItemDialog from './ItemDialog.vue'
import type { OpenedItems } from './opened.ts'
import ShowNames from './ShowNames.vue'
import { siblingsOf } from './siblings.ts'
import { useItems } from './use-items.ts'
import { useShown } from './use-shown.ts'
import { common } from '../../words/common.ts'
import { itemsPanel } from '../../words/ticket.ts'

const said = useSaid(itemsPanel)

/** The items behind a count, masked unless showing is allowed. Photos are tiles beside the ledger, or a list here. */
const sides = useSideNames()
const props = defineProps<{
  ticket: string
  open: OpenedItems
  groupTitle: string
  row: LedgerRow
  canChoose: boolean
  showingUntil: string | null
  stamp: string
}>()
const emit = defineEmits<{
  close: []
  open: [next: OpenedItems, title: string]
  show: []
  choose: [key: string, isChosen: boolean]
  slice: [slice: { facet: string; storage: string; reason: string; group: string; when: string; isChosen: boolean }]
}>()

const facet = ref(props.open.facet)
watch(
  () => [props.open.facet, props.open.kind],
  () => (facet.value = props.open.facet),
)
const storage = ref('')
const text = ref('')
const searched = refDebounced(text, 180)
const wish = computed(() => {
  const { kind, filter, reason, group, when } = props.open
  return { kind, filter, reason, group, when, facet: facet.value, storage: storage.value, text: searched.value }
})
const { rows, total, isShowing: isGiven, sentence, more, refresh } = useItems(toRef(props, 'ticket'), wish)
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
/** Every item of what is shown now, the ones further down, too. */
const slice = (isChosen: boolean) => {
  const { reason, group, when } = props.open
  emit('slice', { facet: facet.value, storage: storage.value, reason, group, when, isChosen })
}
const opened = ref<EntryRow | null>(null)
const look = (row: EntryRow) => {
  if (isShowing.value) opened.value = row
  else emit('show')
}
/** Another count of what is open; a slice that is open stays. */
const openFilter = (filter: EntryFilter) => emit('open', { ...props.open, filter, reason: '' }, props.groupTitle)
const siblings = computed(() => siblingsOf(props.row))
const tiles = computed(() => packOf(props.open.kind)?.tiles)
const canTile = computed(() => tiles.value !== undefined && props.open.filter !== 'parts')
const isListed = ref(false)
const isTiled = computed(() => canTile.value && !isListed.value)
const choosable = ['all', 'pending', 'notChosen', 'toCome', 'willCarry', 'willChange']
</script>

<template>
  <ListPanel head="items-head" :close="said.closeItems" @close="emit('close')">
    <template #title>
      {{ words.kinds[open.kind] }}: {{ sides.filter(open.filter).toLowerCase()
      }}<template v-if="total !== null"
        >, <span data-testid="items-total">{{ number(total) }}</span></template
      >
    </template>
    <p v-if="open.reason || (words.meanings[open.filter] && !sides.isLook)" class="mb-1 text-xs text-soft first-letter:uppercase">
      {{ open.reason ? sayReason(open.reason) : sides.say(words.meanings[open.filter]!) }}
    </p>
    <p
      v-if="open.group || open.when"
      class="my-1 flex items-center justify-between gap-2 border border-rule bg-row px-2 py-1 text-xs"
      data-testid="slice"
    >
      <span class="min-w-0 truncate">{{
        open.when
          ? open.when.length > 4
            ? month(open.when)
            : open.when
          : groupTitle || said.one(words.groups[open.kind]?.one ?? said.slice)
      }}</span>
      <LinkButton class="shrink-0" @click="emit('open', { ...open, group: '', when: '' }, '')">{{ said.allAgain }}</LinkButton>
    </p>
    <label class="my-1.5 block">
      <span class="sr-only">{{ said.whichItems }}</span>
      <select class="field" :value="open.filter" @change="openFilter(($event.target as HTMLSelectElement).value as EntryFilter)">
        <option v-if="!siblings.some(([code]) => code === open.filter)" :value="open.filter">{{ sides.filter(open.filter) }}</option>
        <option v-for="[code, n] in siblings" :key="code" :value="code">{{ sides.filter(code) }} ({{ number(n) }})</option>
      </select>
    </label>
    <div class="mb-1.5 grid grid-cols-2 gap-1.5">
      <label
        ><span class="sr-only">{{ said.shape }}</span>
        <select v-model="facet" class="field text-xs">
          <option v-for="(name, code) in words.facets[open.kind] ?? { '': said.anyShape }" :key="code" :value="code">{{ name }}</option>
        </select>
      </label>
      <label
        ><span class="sr-only">{{ said.storage }}</span>
        <select v-model="storage" class="field text-xs">
          <option v-for="(name, code) in words.storages" :key="code" :value="code">{{ name }}</option>
        </select>
      </label>
    </div>
    <label v-if="isShowing" class="mb-1.5 block"
      ><span class="sr-only">{{ said.searchNamesAndNumbers }}</span>
      <input v-model="text" type="search" class="field text-xs" :placeholder="said.searchNamesAndNumbers" autocomplete="off" />
    </label>
    <ShowNames v-else @click="emit('show')" />
    <div v-if="canChoose && !text && choosable.includes(open.filter)" class="mb-1.5 grid grid-cols-2 gap-1.5">
      <SmallButton @click="slice(true)">{{ said.carryAllOfThese }}</SmallButton>
      <SmallButton @click="slice(false)">{{ said.leaveAllOfThese }}</SmallButton>
    </div>
    <LinkButton v-if="canTile" class="mb-1.5 self-start text-xs" @click="isListed = !isListed">{{
      isListed ? said.asTiles : said.asList
    }}</LinkButton>
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="total === 0" class="p-3 text-soft">{{ common.nothingHere }}</p>
    <Teleport v-if="isTiled" defer to="#beside-the-account">
      <component
        :is="tiles"
        :ticket="ticket"
        :kind="open.kind"
        :rows="rows"
        :total="total"
        :filter="open.filter"
        :is-showing="isShowing"
        :can-choose="canChoose"
        @more="more()"
        @choose="(key: string, isChosen: boolean) => emit('choose', key, isChosen)"
        @open="look"
        @show="emit('show')"
        @close="emit('close')"
      />
    </Teleport>
    <VirtualList v-else :count="rows.length" :row-height="54" :label="said.items" :key-of="(i) => rows[i]!.key" @more="more()">
      <template #default="{ index, stop }">
        <EntryLine
          v-if="rows[index]"
          :row="rows[index]!"
          :is-showing="isShowing"
          :can-choose="canChoose"
          :stop="stop"
          @choose="(isChosen) => emit('choose', rows[index]!.key, isChosen)"
          @open="look(rows[index]!)"
        />
      </template>
    </VirtualList>
    <ItemDialog
      v-if="opened && isShowing"
      :ticket="ticket"
      :kind="open.kind"
      :filter="open.filter"
      :entry="opened"
      @close="opened = null"
    />
  </ListPanel>
</template>
