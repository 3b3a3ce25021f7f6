<script setup lang="ts">
import type { EntryRow } from '#contracts/http/ledger.ts'
import { bytes, length, moment, number, reason as sayReason } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { useSaid, useSideNames } from './side-names.ts'
import MaskedName from './MaskedName.vue'
import { common } from '../../words/common.ts'
import { entryLine } from '../../words/ticket.ts'

const said = useSaid(entryLine)

/** One item in a list: its name or a mask, what became of it and why, or what it is like. */
const props = defineProps<{ row: EntryRow; isShowing: boolean; canChoose: boolean; stop: Record<string, unknown> }>()
const emit = defineEmits<{ choose: [isChosen: boolean]; open: [] }>()
const sides = useSideNames()
const isOpen = () => props.canChoose && ['pending', 'notChosen'].includes(props.row.fate)
const shapes = ({ shape }: EntryRow) => {
  const marks = Object.entries(words.shapes)
    .filter(([field]) => shape[field])
    .map(([field, [one, many]]) => (one === many ? one : `${shape[field]} ${shape[field] === 1 ? one : many}`))
  return [...(shape.seconds ? [length(shape.seconds)] : []), ...marks].join(', ')
}
const reasons = () => props.row.reasons.map(sayReason).join('; ')
/** Space chooses, wherever in the row the focus is. */
function onKey(event: KeyboardEvent) {
  if (event.key !== ' ' || !isOpen()) return
  event.preventDefault()
  emit('choose', !props.row.isChosen)
}
</script>

<template>
  <label v-if="isOpen()" class="grid size-6 shrink-0 place-items-center"
    ><input
      type="checkbox"
      class="size-4 accent-ink"
      tabindex="-1"
      :checked="row.isChosen"
      :aria-label="said.carryItem(row.position)"
      @change="emit('choose', ($event.target as HTMLInputElement).checked)"
  /></label>
  <button type="button" class="min-w-0 flex-1 text-left" v-bind="stop" @keydown="onKey" @click="emit('open')">
    <span class="flex items-baseline gap-2">
      <strong v-if="isShowing" class="truncate">{{ row.title || common.noName }}</strong>
      <MaskedName v-else :seed="row.position" />
      <span class="shrink-0 text-xs text-soft">{{ sides.filter(row.fate) }}</span>
    </span>
    <span class="block truncate text-xs text-soft" :title="reasons()">
      {{
        row.reasons.length > 0
          ? reasons()
          : [row.at ? moment(row.at) : '', shapes(row), words.storages[row.storage] ?? row.storage].filter(Boolean).join(' · ')
      }}
    </span>
  </button>
  <span class="shrink-0 text-right text-xs text-soft">{{ said.no(number(row.position)) }}<br />{{ bytes(row.sizeBytes) }}</span>
</template>
