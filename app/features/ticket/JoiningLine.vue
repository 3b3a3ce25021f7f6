<script setup lang="ts">
import { computed } from 'vue'
import type { JoiningRow } from '#contracts/http/ledger.ts'
import SmallButton from '../../components/base/SmallButton.vue'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import MaskedName from './MaskedName.vue'
import { common } from '../../words/common.ts'
import { joiningLine } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(joiningLine)

/** One person on both phones: what the two records share, what stands against one, and what was decided. */
const props = defineProps<{
  row: JoiningRow
  isShowing: boolean
  canDecide: boolean
  canUndo: boolean
  stop: Record<string, unknown>
}>()
defineEmits<{ open: []; decide: [decision: 'keep' | 'join' | 'carry']; undo: [] }>()
const shared = computed(() => said.which(number(props.row.position), props.row.shared.map((what) => words.shared[what] ?? what).join(', ')))
const against = computed(() =>
  props.row.conflicts.includes('record-changed')
    ? said.changedMeanwhile
    : props.row.conflicts.includes('does-not-fit')
      ? said.wouldNotFit
      : said.bothSayTheirOwn(props.row.conflicts.map((field) => (words.fields[field] ?? field).toLowerCase()).join(', ')),
)
const state = computed(() => (props.row.state === 'open' ? props.row.decision : props.row.state))
</script>

<template>
  <button type="button" class="min-w-0 flex-1 text-left" v-bind="stop" :data-state="state" @click="$emit('open')">
    <strong v-if="isShowing" class="block truncate">{{ row.title || common.noName }}</strong>
    <MaskedName v-else :seed="row.position" />
    <span class="block truncate text-xs text-soft">{{ shared }}</span>
    <span v-if="row.conflicts.length > 0" class="block truncate text-xs text-ochre" :title="against">{{ said.two(against) }}</span>
    <span v-else class="block text-xs font-semibold" :class="row.state === 'joined' ? 'text-verdigris' : 'text-soft'">{{
      words.joinings[state]
    }}</span>
  </button>
  <SmallButton
    v-if="canDecide && row.state === 'open' && row.conflicts.length === 0"
    class="shrink-0"
    :aria-label="said.actOn(row.decision === 'join' ? said.keepBothOf : said.join, row.position)"
    @click="$emit('decide', row.decision === 'join' ? 'keep' : 'join')"
    >{{ row.decision === 'join' ? common.keepBoth : said.join }}</SmallButton
  >
  <SmallButton
    v-else-if="canUndo && row.state === 'joined'"
    class="shrink-0"
    :aria-label="said.putBackOne(row.position)"
    @click="$emit('undo')"
    >{{ said.putBack }}</SmallButton
  >
  <SmallButton
    v-else-if="canUndo && row.fate === 'undone'"
    class="shrink-0"
    :aria-label="said.carryAsOwnOne(row.position)"
    @click="$emit('decide', 'carry')"
    >{{ said.carryAsOwn }}</SmallButton
  >
</template>
