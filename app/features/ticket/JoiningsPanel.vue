<script setup lang="ts">
import type { z } from 'zod'
import { routes } from '#contracts/http/routes.ts'
import { ofKind, type TicketCall } from './ticket-call.ts'
import { computed, ref, toRef, watch } from 'vue'
import { useVirtualizer } from '@tanstack/vue-virtual'
import { EyeOff, X } from '@lucide/vue'
import type { JoiningRow } from '#contracts/http/ledger.ts'
import AppButton from '../../components/base/AppButton.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import { number, people } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import JoiningDialog from './JoiningDialog.vue'
import { useShown } from './use-shown.ts'
import { useJoinings } from './use-joinings.ts'

/** People on both phones: joined into one record or kept both, one by one or by a rule; and put back as they were. */
const props = defineProps<{
  ticket: string
  kind: string
  canDecide: boolean
  canUndo: boolean
  showingUntil: string | null
  stamp: number
  busy: string
}>()
const emit = defineEmits<{ close: []; show: []; act: [name: string, call: TicketCall] }>()
const { rows, counts, isShowing: isGiven, sentence, more, refresh } = useJoinings(toRef(props, 'ticket'), toRef(props, 'kind'))
const isShowing = useShown(toRef(props, 'showingUntil'), isGiven)
watch(
  () => [props.stamp, props.showingUntil, props.busy],
  () => void refresh(),
)
const opened = ref<JoiningRow | null>(null)
const scroller = ref<HTMLElement | null>(null)
const virtual = useVirtualizer(
  computed(() => ({ count: rows.value.length, getScrollElement: () => scroller.value, estimateSize: () => 62, overscan: 8 })),
)
watch(
  () => virtual.value.getVirtualItems().at(-1)?.index ?? 0,
  (last) => {
    if (last >= rows.value.length - 20) void more()
  },
)
const decide = (body: z.input<typeof routes.decide.body>) => emit('act', 'join', ofKind(routes.decide, props.kind, body))
const undo = (keys?: string[]) => emit('act', 'undo', ofKind(routes.undoJoinings, props.kind, keys ? { keys } : {}))
const shared = (row: JoiningRow) => `no. ${number(row.position)} · ${row.shared.map((what) => words.shared[what] ?? what).join(', ')}`
const against = (row: JoiningRow) =>
  row.conflicts.includes('record-changed')
    ? 'changed on the new phone meanwhile'
    : row.conflicts.includes('does-not-fit')
      ? 'as one it would not fit the new phone'
      : `both say their own ${row.conflicts.map((field) => (words.fields[field] ?? field).toLowerCase()).join(', ')}`
</script>

<template>
  <section class="flex h-full min-h-0 flex-col" aria-labelledby="joinings-head" @keydown.esc="emit('close')">
    <div class="flex items-start justify-between gap-2">
      <h2 id="joinings-head" class="text-[0.95rem]">
        On both phones<template v-if="counts"
          >: <span data-testid="joinings-total">{{ people(counts.all) }}</span></template
        >
      </h2>
      <button type="button" class="p-1" aria-label="Close the list" @click="emit('close')"><X :size="16" aria-hidden="true" /></button>
    </div>
    <p class="mb-2 text-xs text-soft">
      Joined, one record says all that both say. Who says two different things stays two. The record as it was is kept, and can be put back.
    </p>
    <template v-if="counts && canDecide">
      <div class="mb-1.5 grid gap-1.5">
        <AppButton v-if="counts.sure > 0" class="w-full" :busy="busy === 'join'" @click="decide({ rule: 'sure' })"
          >Join the {{ number(counts.sure) }} who share name and number or mail</AppButton
        >
        <div v-if="counts.can > 0" class="grid grid-cols-2 gap-1.5">
          <button
            type="button"
            class="border border-rule bg-sheet py-1 text-xs font-semibold hover:bg-row"
            @click="decide({ rule: 'all' })"
          >
            Join all {{ number(counts.can) }} that can be
          </button>
          <button
            type="button"
            class="border border-rule bg-sheet py-1 text-xs font-semibold hover:bg-row disabled:opacity-50"
            :disabled="counts.toJoin === 0"
            @click="decide({ rule: 'none' })"
          >
            Keep all as two
          </button>
        </div>
      </div>
    </template>
    <AppButton v-if="counts && canUndo && counts.joined > 0" look="danger" class="mb-1.5 w-full" :busy="busy === 'undo'" @click="undo()"
      >Put {{ people(counts.joined) }} back as they were</AppButton
    >
    <button
      v-if="!isShowing"
      type="button"
      class="mb-1.5 flex items-center justify-center gap-2 border border-rule bg-sheet py-1.5 text-xs font-semibold hover:bg-row"
      @click="emit('show')"
    >
      <EyeOff :size="14" aria-hidden="true" />Names are hidden. Show them…
    </button>
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="counts?.all === 0" class="p-3 text-soft">Nobody is on both phones.</p>
    <div ref="scroller" class="min-h-40 flex-1 overflow-y-auto border-t border-rule" tabindex="-1">
      <ul class="relative" :style="{ height: `${virtual.getTotalSize()}px` }" aria-label="People on both phones">
        <li
          v-for="v in virtual.getVirtualItems()"
          :key="rows[v.index]!.key"
          class="absolute inset-x-0 flex h-[62px] items-center gap-2 border-b border-rule px-1"
          :style="{ transform: `translateY(${v.start}px)` }"
          :data-state="rows[v.index]!.state === 'open' ? rows[v.index]!.decision : rows[v.index]!.state"
        >
          <button type="button" class="min-w-0 flex-1 text-left" @click="isShowing ? (opened = rows[v.index]!) : emit('show')">
            <strong v-if="isShowing" class="block truncate">{{ rows[v.index]!.title || 'No name' }}</strong>
            <span
              v-else
              class="inline-block h-2.5 rounded-sm bg-[#cfc9b6]"
              :style="{ width: `${56 + ((rows[v.index]!.position * 37) % 70)}px` }"
              ><span class="sr-only">hidden name</span></span
            >
            <span class="block truncate text-xs text-soft">{{ shared(rows[v.index]!) }}</span>
            <span v-if="rows[v.index]!.conflicts.length > 0" class="block truncate text-xs text-ochre" :title="against(rows[v.index]!)"
              >Two: {{ against(rows[v.index]!) }}</span
            >
            <span v-else class="block text-xs font-semibold" :class="rows[v.index]!.state === 'joined' ? 'text-verdigris' : 'text-soft'">{{
              words.joinings[rows[v.index]!.state === 'open' ? rows[v.index]!.decision : rows[v.index]!.state]
            }}</span>
          </button>
          <button
            v-if="canDecide && rows[v.index]!.state === 'open' && rows[v.index]!.conflicts.length === 0"
            type="button"
            class="shrink-0 border border-rule bg-sheet px-1.5 py-0.5 text-xs font-semibold"
            :aria-label="`${rows[v.index]!.decision === 'join' ? 'Keep both of' : 'Join'} no. ${rows[v.index]!.position}`"
            @click="decide({ keys: [rows[v.index]!.key], decision: rows[v.index]!.decision === 'join' ? 'keep' : 'join' })"
          >
            {{ rows[v.index]!.decision === 'join' ? 'Keep both' : 'Join' }}
          </button>
          <button
            v-else-if="canUndo && rows[v.index]!.state === 'joined'"
            type="button"
            class="shrink-0 border border-rule bg-sheet px-1.5 py-0.5 text-xs font-semibold"
            :aria-label="`Put back no. ${rows[v.index]!.position}`"
            @click="undo([rows[v.index]!.key])"
          >
            Put back
          </button>
          <button
            v-else-if="canUndo && rows[v.index]!.fate === 'undone'"
            type="button"
            class="shrink-0 border border-rule bg-sheet px-1.5 py-0.5 text-xs font-semibold"
            :aria-label="`Carry no. ${rows[v.index]!.position} as its own`"
            @click="decide({ keys: [rows[v.index]!.key], decision: 'carry' })"
          >
            Carry as its own
          </button>
        </li>
      </ul>
    </div>
    <JoiningDialog
      v-if="opened && isShowing"
      :ticket="ticket"
      :kind="kind"
      :row="opened"
      :can-decide="canDecide"
      @close="opened = null"
      @decide="
        (decision) => {
          decide({ keys: [opened!.key], decision })
          opened = null
        }
      "
    />
  </section>
</template>
