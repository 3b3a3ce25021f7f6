<script setup lang="ts">
import { computed, ref } from 'vue'
import type { CopyView } from '#contracts/http/lockers.ts'
import { fates as allFates } from '#core/book/index.ts'
import DataTable from '../../components/base/DataTable.vue'
import FigureButton from '../../components/base/FigureButton.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import { bytes, day, fullDay, items as sayItems, number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { lastDayOf, lockersPage as said, lookBoard } from '../../words/lockers.ts'
import CopyWhys from './CopyWhys.vue'
import { daysLeft, inCopy, shortOf } from './copy-figures.ts'

/** One copy: whose, of which phone and day, what it holds by kind, until when, and what can be done with it. */
const props = defineProps<{ copy: CopyView; zone: string; now: number }>()
const emit = defineEmits<{ look: [kind: string]; compare: []; shut: []; keep: []; destroy: [] }>()
const isOpen = ref(false)
/** Which count of what is not in it stands open. */
const why = ref<{ kind: string; fate: string } | null>(null)
const left = computed(() => daysLeft(props.copy.keepUntil, props.now))
/** The last day it is kept: it goes at the end of it. */
const lastDay = computed(() => fullDay(lastDayOf(props.copy.keepUntil), props.zone))
const short = computed(() => props.copy.kinds.reduce((sum, kind) => sum + shortOf(kind.fates), 0))
const notReadBack = computed(() => sum(({ fates }) => fates.notReadBack ?? 0))
const shownFates = computed(() => allFates.filter((fate) => props.copy.kinds.some(({ fates }) => (fates[fate] ?? 0) > 0)))
const sum = (of: (kind: CopyView['kinds'][number]) => number) => props.copy.kinds.reduce((all, kind) => all + of(kind), 0)
const rows = computed(() => [
  ...props.copy.kinds.map((kind) => ({ ...kind, isSum: false })),
  {
    kind: '',
    items: sum(({ items }) => items),
    bytes: sum(({ bytes: n }) => n),
    savedBytes: sum(({ savedBytes }) => savedBytes),
    fates: Object.fromEntries(shownFates.value.map((fate) => [fate, sum(({ fates }) => fates[fate] ?? 0)])),
    isSum: true,
  },
])
/** What is in the copy leads to its items; what is not, to why. */
function canOpen(row: { kind: string; isSum: boolean; fates: Readonly<Record<string, number>> }, fate: string): boolean {
  if (row.isSum || (row.fates[fate] ?? 0) === 0) return false
  return !inCopy.has(fate) || (!props.copy.destroyed && !props.copy.isClosed)
}
function open(kind: string, fate: string): void {
  if (inCopy.has(fate)) return emit('look', kind)
  why.value = why.value?.kind === kind && why.value.fate === fate ? null : { kind, fate }
}
const whyKind = computed(() => props.copy.kinds.find(({ kind }) => kind === why.value?.kind))
</script>

<template>
  <article class="border border-rule border-t-[3px] border-t-ink bg-sheet p-3.5" :aria-label="said.countOf(copy.id)" :data-copy="copy.id">
    <div class="flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <strong class="font-head text-xl leading-none">{{ copy.id }}</strong>
      <div class="min-w-0 flex-1">
        <strong>{{ copy.phone.model }}</strong>
        <span class="ml-2 text-soft"
          >{{ copy.isClosed ? said.closed : (copy.customer ?? said.noName) }} ·
          <template v-if="copy.asOf">{{ said.madeAsOf(day(copy.asOf)) }}</template> · {{ said.by(copy.askedBy, copy.ticket ?? '') }}</span
        >
      </div>
      <span v-if="copy.destroyed" class="text-soft" data-testid="copy-gone"
        >{{ said.gone }} {{ said.goneOn(fullDay(copy.destroyed.at, zone)) }}:
        {{ (copy.destroyed.why && said.whys[copy.destroyed.why]) || said.how[copy.destroyed.how] }}
        <template v-if="copy.destroyed.by"> · {{ copy.destroyed.by }}</template></span
      >
      <span v-else :class="left <= 7 ? 'font-semibold text-ochre' : 'text-soft'"
        >{{ said.heads.kept }} {{ lastDay }}<template v-if="left <= 7">, {{ said.ends(left) }}</template></span
      >
    </div>
    <div class="mt-2 flex flex-wrap items-center gap-x-5 gap-y-1">
      <button
        type="button"
        class="font-head font-semibold underline decoration-dotted"
        :aria-expanded="isOpen"
        data-testid="copy-items"
        @click="isOpen = !isOpen"
      >
        {{ said.items(number(copy.items)) }}
      </button>
      <span class="text-soft">{{ bytes(copy.bytes) }}</span>
      <span v-if="copy.savedBytes > 0" class="text-soft">{{ said.savedBytes(bytes(copy.savedBytes)) }}</span>
      <button
        v-if="short > 0"
        type="button"
        class="font-semibold text-madder underline decoration-dotted"
        :aria-expanded="isOpen"
        data-testid="copy-short"
        @click="isOpen = true"
      >
        {{ said.shortThen(number(short)) }}
      </button>
      <span v-else class="text-soft" data-testid="copy-short">{{ said.nothingShort }}</span>
      <span v-if="notReadBack > 0" class="font-semibold text-madder" data-testid="copy-unread">{{
        said.notReadBack(number(notReadBack))
      }}</span>
      <span v-if="!copy.destroyed" class="ml-auto flex gap-1.5">
        <SmallButton v-if="!copy.isClosed" :aria-label="said.lookOne(copy.id)" @click="$emit('look', '')">{{ said.look }}</SmallButton>
        <NuxtLink
          :to="{ path: '/book-in', query: { copy: String(copy.id) } }"
          class="rounded-[3px] border border-ink bg-sheet px-2 py-1 text-xs font-semibold"
          :aria-label="said.putBackOne(copy.id)"
          >{{ said.putBack }}</NuxtLink
        >
        <NuxtLink
          :to="{ path: '/book-in', query: { copy: String(copy.id), home: '1' } }"
          class="rounded-[3px] border border-ink bg-sheet px-2 py-1 text-xs font-semibold"
          :aria-label="said.takeHomeOne(copy.id)"
          >{{ said.takeHome }}</NuxtLink
        >
        <SmallButton v-if="!copy.isClosed" :aria-label="said.compareOne(copy.id)" @click="$emit('compare')">{{ said.compare }}</SmallButton>
        <SmallButton v-if="!copy.isClosed" :aria-label="said.closeOne(copy.id)" @click="$emit('shut')">{{ said.closeIt }}</SmallButton>
        <SmallButton :aria-label="said.keepOne(copy.id)" @click="$emit('keep')">{{ said.keepLonger }}</SmallButton>
        <SmallButton :aria-label="said.destroyOne(copy.id)" @click="$emit('destroy')">{{ said.destroy }}</SmallButton>
      </span>
    </div>
    <DataTable
      v-if="isOpen"
      class="mt-3"
      :label="said.countOf(copy.id)"
      :rows="rows"
      :key-of="(row) => row.kind"
      :row-of="(row) => ({ isSum: row.isSum })"
      :columns="[
        { key: 'kind', head: common.kind, names: true },
        { key: 'items', head: said.inLocker, isRight: true },
        { key: 'bytes', head: said.heads.size, isRight: true },
        ...shownFates.map((fate) => ({ key: fate, head: words.filters[fate] ?? fate, isRight: true })),
      ]"
    >
      <template #kind="{ row }">{{ row.isSum ? common.all : words.kinds[row.kind] }}</template>
      <template #items="{ row }"
        ><FigureButton
          :n="row.items"
          :can-open="!row.isSum && row.items > 0 && !copy.destroyed && !copy.isClosed"
          :aria-label="lookBoard.openOne(sayItems(row.kind, row.items))"
          @open="$emit('look', row.kind)"
      /></template>
      <template #bytes="{ row }">{{ bytes(row.bytes) }}</template>
      <template v-for="fate in shownFates" :key="fate" #[fate]="{ row }"
        ><FigureButton
          :n="row.fates[fate] ?? 0"
          :can-open="canOpen(row, fate)"
          :aria-expanded="inCopy.has(fate) ? undefined : why?.kind === row.kind && why.fate === fate"
          :aria-label="said.openWhy(number(row.fates[fate] ?? 0), words.filters[fate] ?? fate, words.kinds[row.kind] ?? common.all)"
          @open="open(row.kind, fate)"
      /></template>
    </DataTable>
    <CopyWhys v-if="isOpen && whyKind" :kind="whyKind" :fate="why!.fate" />
  </article>
</template>
