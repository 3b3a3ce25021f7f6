<script setup lang="ts">
import type { GroupRow } from '#contracts/http/ledger.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { day, number } from '../../words/say.ts'
import MaskedName from './MaskedName.vue'
import { groupLine } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(groupLine)

/** One conversation, calendar, month or year in a list. `name` is null while it is hidden; `called` is what its buttons say. */
const props = defineProps<{
  row: GroupRow
  name: string | null
  called: string
  seed: number
  /** It is told how much of it is chosen; of a span of time, it is not. */
  isWhole: boolean
  canChoose: boolean
  stop: Record<string, unknown>
}>()
const emit = defineEmits<{ choose: [isChosen: boolean]; open: [] }>()
const lasting = ({ from, to }: GroupRow) =>
  from === null || to === null ? '' : day(from) === day(to) ? day(to) : said.span(day(from), day(to))
const isPart = () => props.row.chosen > 0 && props.row.chosen < props.row.items
function onKey(event: KeyboardEvent) {
  if (event.key !== ' ' || !props.canChoose || !props.isWhole) return
  event.preventDefault()
  emit('choose', props.row.chosen === 0)
}
</script>

<template>
  <label v-if="canChoose && isWhole" class="grid size-6 shrink-0 place-items-center"
    ><input
      type="checkbox"
      class="size-4 accent-ink"
      tabindex="-1"
      :checked="row.chosen > 0"
      :indeterminate="isPart()"
      :aria-label="said.carryOne(called)"
      @change="emit('choose', ($event.target as HTMLInputElement).checked)"
  /></label>
  <button type="button" class="min-w-0 flex-1 text-left" v-bind="stop" @keydown="onKey" @click="emit('open')">
    <span v-if="name !== null" class="block truncate font-semibold">{{ name }}</span>
    <MaskedName v-else :seed="seed" />
    <span class="block truncate text-xs text-soft"
      >{{ lasting(row) }}<template v-if="isWhole && isPart()">{{ ' ' }}{{ said.chosen(number(row.chosen)) }}</template></span
    >
  </button>
  <strong class="shrink-0 text-right">{{ number(row.items) }}</strong>
  <span v-if="canChoose && !isWhole" class="flex shrink-0 gap-1">
    <SmallButton :aria-label="said.carryAllOf(called)" @click="emit('choose', true)">{{ said.carry }}</SmallButton>
    <SmallButton :aria-label="said.leaveAllOf(called)" @click="emit('choose', false)">{{ said.leave }}</SmallButton>
  </span>
</template>
