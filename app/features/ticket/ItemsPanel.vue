<script setup lang="ts">
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { refDebounced } from '@vueuse/core'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { EyeOff, X } from '@lucide/vue'
import type { EntryFilter, EntryRow, LedgerRow } from '#contracts/http/ledger.ts'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { bytes, month, number, reason as sayReason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import PhotoGrid from '../photos/PhotoGrid.vue'
import ItemDialog from './ItemDialog.vue'
import { useItems } from './use-items.ts'
import { useShown } from './use-shown.ts'

/** The items behind a count, masked unless showing is allowed; only the rows in view are in the page. */
const props = defineProps<{
  ticket: string
  kind: string
  filter: EntryFilter
  reason: string
  facet: string
  group: string
  groupTitle: string
  when: string
  row: LedgerRow
  canChoose: boolean
  showingUntil: string | null
  stamp: number
}>()
const emit = defineEmits<{
  close: []
  filter: [filter: EntryFilter]
  show: []
  choose: [key: string, isChosen: boolean]
  slice: [slice: { facet: string; storage: string; reason: string; group: string; when: string; isChosen: boolean }]
  whole: []
}>()

const facet = ref(props.facet)
watch(
  () => [props.facet, props.kind],
  () => (facet.value = props.facet),
)
const storage = ref('')
const text = ref('')
const searched = refDebounced(text, 180)
const wish = computed(() => ({
  kind: props.kind,
  filter: props.filter,
  facet: facet.value,
  storage: storage.value,
  reason: props.reason,
  group: props.group,
  when: props.when,
  text: searched.value,
}))
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

const scroller = ref<HTMLElement | null>(null)
const virtual = useVirtualizer(
  computed(() => ({ count: rows.value.length, getScrollElement: () => scroller.value, estimateSize: () => 54, overscan: 8 })),
)
watch(
  () => virtual.value.getVirtualItems().at(-1)?.index ?? 0,
  (last) => {
    if (last >= rows.value.length - 20) void more()
  },
)
const at = ref(0)
async function step(by: number) {
  at.value = Math.max(0, Math.min(rows.value.length - 1, at.value + by))
  virtual.value.scrollToIndex(at.value)
  await nextTick()
  scroller.value?.querySelector<HTMLElement>(`[data-index="${at.value}"]`)?.focus()
}
function onKey(event: KeyboardEvent) {
  const by = { j: 1, ArrowDown: 1, k: -1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key]
  if (!by) return
  event.preventDefault()
  void step(by)
}

/** Every item of what is shown now, the ones further down, too. */
const slice = (isChosen: boolean) =>
  emit('slice', { facet: facet.value, storage: storage.value, reason: props.reason, group: props.group, when: props.when, isChosen })

const opened = ref<EntryRow | null>(null)
const siblings = computed(() => {
  const { fates, new: now, old } = props.row
  const all: [EntryFilter, number][] = [
    ['all', old.read + old.late],
    ...(Object.entries(fates) as [EntryFilter, number][]),
    ['late', old.late],
    ['first', now.first ?? 0],
    ['last', now.last ?? 0],
    ...(['kept', 'addedTo', 'altered', 'arrived', 'cameOtherwise', 'double', 'absorbed', 'missing', 'parts'] as const).map(
      (o): [EntryFilter, number] => [o, now[o]],
    ),
  ]
  return all.filter(([, n]) => n > 0)
})
const shapes = (row: EntryRow) =>
  Object.entries(words.shapes)
    .filter(([field]) => row.shape[field])
    .map(([field, [one, many]]) => (one === many ? one : `${row.shape[field]} ${row.shape[field] === 1 ? one : many}`))
    .join(', ') || 'no fields'
const moment = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' }).format(
    new Date(iso),
  )
const storages = computed(() => Object.entries(words.storages))
</script>

<template>
  <section class="flex h-full min-h-0 flex-col" aria-labelledby="items-head" @keydown.esc="emit('close')">
    <div class="flex items-start justify-between gap-2">
      <h2 id="items-head" class="text-[0.95rem]">
        {{ words.kinds[kind] }}: {{ words.filters[filter]!.toLowerCase()
        }}<template v-if="total !== null"
          >, <span data-testid="items-total">{{ number(total) }}</span></template
        >
      </h2>
      <button type="button" class="p-1" aria-label="Close the items" @click="emit('close')"><X :size="16" aria-hidden="true" /></button>
    </div>
    <p v-if="reason || words.meanings[filter]" class="mb-1 text-xs text-soft first-letter:uppercase">
      {{ reason ? sayReason(reason) : words.meanings[filter] }}
    </p>
    <p
      v-if="group || when"
      class="my-1 flex items-center justify-between gap-2 border border-rule bg-row px-2 py-1 text-xs"
      data-testid="slice"
    >
      <span class="min-w-0 truncate">{{
        when ? (when.length > 4 ? month(when) : when) : groupTitle || `One ${words.groups[kind]?.one ?? 'slice'}`
      }}</span>
      <button type="button" class="shrink-0 font-semibold underline" @click="emit('whole')">All again</button>
    </p>
    <label class="my-1.5 block">
      <span class="sr-only">Which items</span>
      <select class="field" :value="filter" @change="emit('filter', ($event.target as HTMLSelectElement).value as EntryFilter)">
        <option v-if="!siblings.some(([code]) => code === filter)" :value="filter">{{ words.filters[filter] }}</option>
        <option v-for="[code, n] in siblings" :key="code" :value="code">{{ words.filters[code] }} ({{ number(n) }})</option>
      </select>
    </label>
    <div class="mb-1.5 grid grid-cols-2 gap-1.5">
      <label
        ><span class="sr-only">Shape</span>
        <select v-model="facet" class="field text-xs">
          <option v-for="(name, code) in words.facets[kind] ?? { '': 'Any shape' }" :key="code" :value="code">{{ name }}</option>
        </select>
      </label>
      <label
        ><span class="sr-only">Storage</span>
        <select v-model="storage" class="field text-xs">
          <option v-for="[code, name] in storages" :key="code" :value="code">{{ name }}</option>
        </select>
      </label>
      <label v-if="isShowing" class="col-span-2"
        ><span class="sr-only">Search names and numbers</span>
        <input v-model="text" type="search" class="field text-xs" placeholder="Search names and numbers" autocomplete="off" />
      </label>
      <button
        v-else
        type="button"
        class="col-span-2 flex items-center justify-center gap-2 border border-rule bg-sheet py-1.5 text-xs font-semibold hover:bg-row"
        @click="emit('show')"
      >
        <EyeOff :size="14" aria-hidden="true" />Names are hidden. Show them…
      </button>
    </div>
    <div
      v-if="canChoose && !text && ['all', 'pending', 'notChosen', 'willCarry', 'willChange'].includes(filter)"
      class="mb-1.5 grid grid-cols-2 gap-1.5"
    >
      <button type="button" class="border border-rule bg-sheet py-1 text-xs font-semibold hover:bg-row" @click="slice(true)">
        Carry all of these
      </button>
      <button type="button" class="border border-rule bg-sheet py-1 text-xs font-semibold hover:bg-row" @click="slice(false)">
        Leave all of these
      </button>
    </div>
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="total === 0" class="p-3 text-soft">Nothing here.</p>
    <Teleport v-if="kind === 'photos' && filter !== 'parts'" defer to="#beside-the-account">
      <PhotoGrid
        :ticket="ticket"
        :rows="rows"
        :total="total"
        :filter="filter"
        :is-showing="isShowing"
        :can-choose="canChoose"
        @more="more()"
        @choose="(key, isChosen) => emit('choose', key, isChosen)"
        @open="(row) => (opened = row)"
        @show="emit('show')"
      />
    </Teleport>
    <div ref="scroller" class="min-h-40 flex-1 overflow-y-auto border-t border-rule" tabindex="-1" @keydown="onKey">
      <ul class="relative" :style="{ height: `${virtual.getTotalSize()}px` }">
        <li
          v-for="v in virtual.getVirtualItems()"
          :key="rows[v.index]!.key"
          class="absolute inset-x-0 flex h-[54px] items-center gap-2.5 border-b border-rule px-1"
          :style="{ transform: `translateY(${v.start}px)` }"
        >
          <input
            v-if="canChoose && ['pending', 'notChosen'].includes(rows[v.index]!.fate)"
            type="checkbox"
            class="size-4 shrink-0 accent-ink"
            :checked="rows[v.index]!.isChosen"
            :aria-label="`Carry item ${rows[v.index]!.position}`"
            @change="emit('choose', rows[v.index]!.key, ($event.target as HTMLInputElement).checked)"
          />
          <button
            type="button"
            class="min-w-0 flex-1 text-left"
            :data-index="v.index"
            :tabindex="v.index === at ? 0 : -1"
            @focus="at = v.index"
            @click="isShowing ? (opened = rows[v.index]!) : emit('show')"
          >
            <span class="flex items-baseline gap-2">
              <strong v-if="isShowing" class="truncate">{{ rows[v.index]!.title || 'No name' }}</strong>
              <span
                v-else
                class="inline-block h-2.5 rounded-sm bg-[#cfc9b6]"
                :style="{ width: `${56 + ((rows[v.index]!.position * 37) % 70)}px` }"
                ><span class="sr-only">hidden name</span></span
              >
              <span class="shrink-0 text-xs text-soft">{{ words.filters[rows[v.index]!.fate] ?? rows[v.index]!.fate }}</span>
            </span>
            <span class="block truncate text-xs text-soft" :title="rows[v.index]!.reasons.map(sayReason).join('; ')">
              {{
                rows[v.index]!.reasons.length > 0
                  ? rows[v.index]!.reasons.map(sayReason).join('; ')
                  : `${rows[v.index]!.at ? `${moment(rows[v.index]!.at!)} · ` : ''}${shapes(rows[v.index]!)} · ${words.storages[rows[v.index]!.storage] ?? rows[v.index]!.storage}`
              }}
            </span>
          </button>
          <span class="shrink-0 text-right text-xs text-soft"
            >no. {{ number(rows[v.index]!.position) }}<br />{{ bytes(rows[v.index]!.sizeBytes) }}</span
          >
        </li>
      </ul>
    </div>
    <ItemDialog v-if="opened && isShowing" :ticket="ticket" :kind="kind" :filter="filter" :entry="opened" @close="opened = null" />
  </section>
</template>
