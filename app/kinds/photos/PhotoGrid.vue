<script setup lang="ts">
import { computed, nextTick, onMounted, ref, toRef, watch } from 'vue'
import { useElementSize } from '@vueuse/core'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { Film, Heart, Images, Cloud, EyeOff } from '@lucide/vue'
import type { EntryFilter, EntryRow } from '#contracts/http/ledger.ts'
import { bytes, day, items, length } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { useThumbnails } from './use-thumbnails.ts'
import LinkButton from '../../components/base/LinkButton.vue'
import { photoGrid as said } from './words.ts'

/** Photos as masked tiles: their shape, date and size. Pictures come only while showing is allowed, and only for tiles in view. */
const props = defineProps<{
  ticket: string
  kind: string
  rows: readonly EntryRow[]
  total: number | null
  filter: EntryFilter
  isShowing: boolean
  canChoose: boolean
}>()
const emit = defineEmits<{ more: []; choose: [key: string, isChosen: boolean]; open: [row: EntryRow]; show: [] }>()

const root = ref<HTMLElement | null>(null)
// it opens below the ledger, where a screen of this height ends
onMounted(() => {
  const around = root.value?.closest<HTMLElement>('[aria-label="Ledger"]')
  // within its own column alone: the page itself does not scroll
  if (root.value && around)
    around.scrollTop += Math.max(0, root.value.getBoundingClientRect().bottom - around.getBoundingClientRect().bottom + 12)
})
const tileWidth = 128
const lineHeight = 138
const scroller = ref<HTMLElement | null>(null)
const { width } = useElementSize(scroller)
const across = computed(() => Math.max(1, Math.floor((width.value || 860) / tileWidth)))
const lines = computed(() => Math.ceil(props.rows.length / across.value))
const virtual = useVirtualizer(
  computed(() => ({ count: lines.value, getScrollElement: () => scroller.value, estimateSize: () => lineHeight, overscan: 1 })),
)
const shown = computed(() =>
  virtual.value.getVirtualItems().map((line) => ({
    start: line.start,
    index: line.index,
    tiles: props.rows.slice(line.index * across.value, (line.index + 1) * across.value),
  })),
)
watch(
  () => shown.value.at(-1)?.index ?? 0,
  (last) => {
    if (last >= lines.value - 4) emit('more')
  },
)
const { pictures, show } = useThumbnails({
  number: toRef(props, 'ticket'),
  kind: toRef(props, 'kind'),
  filter: toRef(props, 'filter'),
  isShowing: toRef(props, 'isShowing'),
})
watch(
  () => [shown.value.flatMap((line) => line.tiles.map((tile) => tile.key)).join(), props.isShowing],
  () => show(shown.value.flatMap((line) => line.tiles.map((tile) => tile.key))),
  { immediate: true },
)

/** The masked shape: as wide and high as the picture, within its tile. */
function shapeOf({ shape }: EntryRow): { width: string; height: string } {
  const [w, h] = [shape.width || 4, shape.height || 3]
  const by = Math.min(104 / w, 78 / h)
  return { width: `${Math.round(w * by)}px`, height: `${Math.round(h * by)}px` }
}
const at = ref(0)
async function step(by: number) {
  at.value = Math.max(0, Math.min(props.rows.length - 1, at.value + by))
  virtual.value.scrollToIndex(Math.floor(at.value / across.value))
  await nextTick()
  scroller.value?.querySelector<HTMLElement>(`[data-tile="${at.value}"]`)?.focus()
}
function onKey(event: KeyboardEvent) {
  const by = {
    ArrowRight: 1,
    l: 1,
    ArrowLeft: -1,
    h: -1,
    ArrowDown: across.value,
    j: across.value,
    ArrowUp: -across.value,
    k: -across.value,
    PageDown: across.value * 3,
    PageUp: -across.value * 3,
  }[event.key]
  if (by) {
    event.preventDefault()
    void step(by)
  } else if (event.key === ' ' && props.canChoose) {
    const row = props.rows[at.value]
    if (!row || !isOpen(row)) return
    event.preventDefault()
    emit('choose', row.key, !row.isChosen)
  }
}
const isOpen = (row: EntryRow) => ['pending', 'notChosen'].includes(row.fate)
const tileLine = (row: EntryRow) =>
  [
    row.at ? day(row.at) : said.noDate,
    ...(row.shape.seconds ? [length(row.shape.seconds)] : []),
    bytes(row.sizeBytes),
    row.shape.film ? said.film : row.shape.moving ? said.movingPhoto : words.one[props.kind],
    words.filters[row.fate] ?? row.fate,
  ].join(', ')
</script>

<template>
  <section ref="root" class="border border-rule bg-sheet" :aria-label="said.asTiles(words.kinds[kind]!)">
    <div class="flex items-baseline justify-between border-b border-rule px-3 py-1.5 text-xs text-soft">
      <span>{{ said.masked(total === null ? words.kinds[kind]! : items(kind, total)) }}</span>
      <LinkButton v-if="!isShowing" class="flex items-center gap-1.5" @click="emit('show')"
        ><EyeOff :size="13" aria-hidden="true" />{{ said.showPictures }}</LinkButton
      >
      <span v-else class="font-semibold text-ochre">{{ said.picturesAreShown }}</span>
    </div>
    <div ref="scroller" class="h-[25rem] overflow-y-auto p-1" tabindex="-1" data-testid="photo-grid" @keydown="onKey">
      <div class="relative" :style="{ height: `${virtual.getTotalSize()}px` }">
        <div
          v-for="line in shown"
          :key="line.index"
          class="absolute inset-x-0 grid"
          :style="{
            transform: `translateY(${line.start}px)`,
            gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))`,
            height: `${lineHeight}px`,
          }"
        >
          <div
            v-for="(tile, i) in line.tiles"
            :key="tile.key"
            class="relative m-0.5 flex flex-col items-center border p-1"
            :class="isOpen(tile) && !tile.isChosen ? 'border-dashed border-rule opacity-70' : 'border-rule'"
          >
            <button
              type="button"
              class="flex w-full flex-1 flex-col items-center justify-between"
              :aria-label="tileLine(tile)"
              :data-tile="line.index * across + i"
              :tabindex="line.index * across + i === at ? 0 : -1"
              @focus="at = line.index * across + i"
              @click="isShowing ? emit('open', tile) : emit('show')"
            >
              <span class="flex h-[80px] w-full items-center justify-center">
                <img v-if="pictures[tile.key]" :src="pictures[tile.key]!" alt="" class="max-h-[78px] max-w-[104px]" />
                <span v-else class="flex items-center justify-center bg-mask text-sheet" :style="shapeOf(tile)"
                  ><Film v-if="tile.shape.film || tile.shape.seconds" :size="18" aria-hidden="true" /><Cloud
                    v-else-if="tile.shape.cloud"
                    :size="18"
                    aria-hidden="true"
                /></span>
              </span>
              <span class="w-full text-center text-[0.7rem] leading-tight text-soft"
                >{{ tile.at ? day(tile.at) : said.noDate }}<br />{{ tile.shape.seconds ? `${length(tile.shape.seconds)} · ` : ''
                }}{{ bytes(tile.sizeBytes) }}<template v-if="!isOpen(tile)"> · {{ words.filters[tile.fate] }}</template></span
              >
            </button>
            <span class="absolute top-1 right-1 flex gap-0.5 text-soft" aria-hidden="true"
              ><Heart v-if="tile.shape.favourite" :size="12" /><Images v-if="tile.shape.moving || tile.shape.edited" :size="12" /><EyeOff
                v-if="tile.shape.hidden"
                :size="12"
            /></span>
            <input
              v-if="canChoose && isOpen(tile)"
              type="checkbox"
              class="absolute top-1 left-1 size-4 accent-ink"
              tabindex="-1"
              :checked="tile.isChosen"
              :aria-label="said.carryOne(words.one[kind]!, tile.position)"
              @change="emit('choose', tile.key, ($event.target as HTMLInputElement).checked)"
            />
          </div>
        </div>
      </div>
    </div>
  </section>
</template>
