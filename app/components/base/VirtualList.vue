<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useVirtualizer } from '@tanstack/vue-virtual'

/**
 * A long list of which only the rows in view are on the page. It is one stop: j and k, the arrows, Page up and down,
 * Home and End go through its rows, and Tab to what else a row offers.
 */
const props = defineProps<{
  count: number
  rowHeight: number
  label: string
  /** What a row is, wherever it stands: a box that was ticked never stays for the row that takes its place. */
  keyOf: (index: number) => string
}>()
const emit = defineEmits<{ more: [] }>()

const scroller = ref<HTMLElement | null>(null)
const virtual = useVirtualizer(
  computed(() => ({
    count: props.count,
    getScrollElement: () => scroller.value,
    estimateSize: () => props.rowHeight,
    overscan: 8,
  })),
)
watch(
  () => virtual.value.getVirtualItems().at(-1)?.index ?? 0,
  (last) => {
    if (last >= props.count - 20) emit('more')
  },
)
const at = ref(0)
watch(
  () => props.count,
  (n) => (at.value = Math.max(0, Math.min(at.value, n - 1))),
)
async function go(to: number) {
  at.value = Math.max(0, Math.min(props.count - 1, to))
  virtual.value.scrollToIndex(at.value)
  await nextTick()
  scroller.value?.querySelector<HTMLElement>(`[data-index="${at.value}"]`)?.focus()
}
function onKey(event: KeyboardEvent) {
  // a field in a row keeps its own keys
  if (event.target instanceof HTMLElement && /^(SELECT|TEXTAREA)$/.test(event.target.tagName)) return
  const a = Math.max(1, Math.floor((scroller.value?.clientHeight ?? 0) / props.rowHeight) - 1)
  const to = {
    j: at.value + 1,
    ArrowDown: at.value + 1,
    k: at.value - 1,
    ArrowUp: at.value - 1,
    PageDown: at.value + a,
    PageUp: at.value - a,
    Home: 0,
    End: props.count - 1,
  }[event.key]
  if (to === undefined) return
  event.preventDefault()
  void go(to)
}
/** What the button of a row that takes the focus is bound with. */
const stopOf = (index: number) => ({
  'data-index': index,
  tabindex: index === at.value ? 0 : -1,
  onFocus: () => (at.value = index),
})
</script>

<template>
  <div ref="scroller" class="min-h-40 flex-1 overflow-y-auto border-t border-rule" tabindex="-1" @keydown="onKey">
    <ul class="relative" :style="{ height: `${virtual.getTotalSize()}px` }" :aria-label="label">
      <li
        v-for="v in virtual.getVirtualItems()"
        :key="v.index < count ? keyOf(v.index) : v.index"
        class="absolute inset-x-0 flex items-center gap-2 border-b border-rule px-1"
        :style="{ height: `${rowHeight}px`, transform: `translateY(${v.start}px)` }"
      >
        <slot :index="v.index" :stop="stopOf(v.index)" />
      </li>
    </ul>
  </div>
</template>
