<script setup lang="ts">
import { computed, ref, toRef, watch } from 'vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { EyeOff, X } from '@lucide/vue'
import type { GroupRow } from '#contracts/http/ledger.ts'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { day, month, number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import type { GroupedBy, OpenedGroups } from './opened.ts'
import { useShown } from './use-shown.ts'
import { useGroups } from './use-groups.ts'

/** The slices a kind is counted by: conversations, calendars, months. Each opens to its items, and is carried or left as a whole. */
const props = defineProps<{ ticket: string; open: OpenedGroups; canChoose: boolean; showingUntil: string | null; stamp: number }>()
const emit = defineEmits<{
  close: []
  by: [by: GroupedBy]
  show: []
  items: [slice: { group: string; when: string; title: string }]
  slice: [slice: { group: string; when: string; isChosen: boolean }]
}>()

const wish = toRef(props, 'open')
const { rows, total, isShowing: isGiven, sentence, more, refresh } = useGroups(toRef(props, 'ticket'), wish)
const isShowing = useShown(toRef(props, 'showingUntil'), isGiven)
watch(
  () => [props.stamp, props.showingUntil],
  () => void refresh(),
)
const groups = computed(() => words.groups[props.open.kind])
const scroller = ref<HTMLElement | null>(null)
const virtual = useVirtualizer(
  computed(() => ({ count: rows.value.length, getScrollElement: () => scroller.value, estimateSize: () => 50, overscan: 8 })),
)
watch(
  () => virtual.value.getVirtualItems().at(-1)?.index ?? 0,
  (last) => {
    if (last >= rows.value.length - 20) void more()
  },
)
const isOld = computed(() => props.open.side === 'old')
const slice = (row: GroupRow) => (props.open.by === 'group' ? { group: row.key, when: '' } : { group: '', when: row.key })
const titleOf = (row: GroupRow) =>
  props.open.by !== 'group' ? span(row.key) : row.title || (props.open.kind === 'calendar' ? 'No name' : 'Nobody')
/** “November 2026”, “2026” */
const span = (key: string) => (key.length > 4 ? month(key) : key)
const bys = computed((): [GroupedBy, string][] => [
  ...(groups.value ? [['group', groups.value.title] as [GroupedBy, string]] : []),
  ['month', 'By month'],
  ['year', 'By year'],
])
const lasting = (row: GroupRow) =>
  row.from === null || row.to === null ? '' : day(row.from) === day(row.to) ? day(row.to) : `${day(row.from)} to ${day(row.to)}`
</script>

<template>
  <section class="flex h-full min-h-0 flex-col" aria-labelledby="groups-head" @keydown.esc="emit('close')">
    <div class="flex items-start justify-between gap-2">
      <h2 id="groups-head" class="text-[0.95rem]">
        {{ words.kinds[open.kind] }} of the {{ isOld ? 'OLD' : 'NEW' }} phone<template v-if="total !== null"
          >: <span data-testid="groups-total">{{ number(total) }}</span>
          {{ open.by !== 'group' ? `${open.by}${total === 1 ? '' : 's'}` : total === 1 ? groups?.one : groups?.many }}</template
        >
      </h2>
      <button type="button" class="p-1" aria-label="Close the list" @click="emit('close')"><X :size="16" aria-hidden="true" /></button>
    </div>
    <fieldset class="my-2 flex gap-1.5">
      <legend class="sr-only">Counted by</legend>
      <label
        v-for="[by, name] in bys"
        :key="by"
        class="cursor-pointer border px-2.5 py-1 text-xs font-medium has-focus-visible:outline-2"
        :class="open.by === by ? 'border-ink bg-ink text-sheet' : 'border-rule bg-sheet'"
      >
        <input type="radio" name="by" class="sr-only" :checked="open.by === by" @change="emit('by', by)" />{{ name }}
      </label>
    </fieldset>
    <button
      v-if="open.by === 'group' && !isShowing"
      type="button"
      class="mb-1.5 flex items-center justify-center gap-2 border border-rule bg-sheet py-1.5 text-xs font-semibold hover:bg-row"
      @click="emit('show')"
    >
      <EyeOff :size="14" aria-hidden="true" />Names are hidden. Show them…
    </button>
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="total === 0" class="p-3 text-soft">Nothing here.</p>
    <div ref="scroller" class="min-h-40 flex-1 overflow-y-auto border-t border-rule" tabindex="-1">
      <ul class="relative" :style="{ height: `${virtual.getTotalSize()}px` }">
        <li
          v-for="v in virtual.getVirtualItems()"
          :key="rows[v.index]!.key"
          class="absolute inset-x-0 flex h-[50px] items-center gap-2 border-b border-rule px-1"
          :style="{ transform: `translateY(${v.start}px)` }"
        >
          <input
            v-if="canChoose && isOld && open.by === 'group'"
            type="checkbox"
            class="size-4 shrink-0 accent-ink"
            :checked="rows[v.index]!.chosen > 0"
            :indeterminate="rows[v.index]!.chosen > 0 && rows[v.index]!.chosen < rows[v.index]!.items"
            :aria-label="`Carry ${groups!.one} ${v.index + 1}`"
            @change="emit('slice', { ...slice(rows[v.index]!), isChosen: ($event.target as HTMLInputElement).checked })"
          />
          <button
            type="button"
            class="min-w-0 flex-1 text-left"
            @click="
              emit('items', {
                ...slice(rows[v.index]!),
                title: open.by !== 'group' ? span(rows[v.index]!.key) : (rows[v.index]!.title ?? ''),
              })
            "
          >
            <span v-if="open.by !== 'group' || isShowing" class="block truncate font-semibold">{{ titleOf(rows[v.index]!) }}</span>
            <span v-else class="inline-block h-2.5 rounded-sm bg-[#cfc9b6]" :style="{ width: `${60 + ((v.index * 37) % 70)}px` }"
              ><span class="sr-only">hidden name</span></span
            >
            <span class="block truncate text-xs text-soft"
              >{{ lasting(rows[v.index]!)
              }}<template v-if="isOld && rows[v.index]!.chosen > 0 && rows[v.index]!.chosen < rows[v.index]!.items">
                · {{ number(rows[v.index]!.chosen) }} chosen</template
              ></span
            >
          </button>
          <strong class="shrink-0 text-right">{{ number(rows[v.index]!.items) }}</strong>
          <span v-if="canChoose && isOld && open.by !== 'group'" class="flex shrink-0 gap-1">
            <button
              type="button"
              class="border border-rule bg-sheet px-1.5 py-0.5 text-xs"
              :aria-label="`Carry all of ${titleOf(rows[v.index]!)}`"
              @click="emit('slice', { ...slice(rows[v.index]!), isChosen: true })"
            >
              Carry
            </button>
            <button
              type="button"
              class="border border-rule bg-sheet px-1.5 py-0.5 text-xs"
              :aria-label="`Leave all of ${titleOf(rows[v.index]!)}`"
              @click="emit('slice', { ...slice(rows[v.index]!), isChosen: false })"
            >
              Leave
            </button>
          </span>
        </li>
      </ul>
    </div>
  </section>
</template>
