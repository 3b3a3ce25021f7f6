<script setup lang="ts">
import type { z } from 'zod'
import { calls } from '#contracts/http/calls.ts'
import type { routes } from '#contracts/http/routes.ts'
import { ofKind, type TicketCall } from './ticket-call.ts'
import { ref, toRef, watch } from 'vue'
import type { JoiningRow } from '#contracts/http/ledger.ts'
import AppButton from '../../components/base/AppButton.vue'
import ListPanel from '../../components/base/ListPanel.vue'
import SentenceBox from '../../components/base/SentenceBox.vue'
import SmallButton from '../../components/base/SmallButton.vue'
import VirtualList from '../../components/base/VirtualList.vue'
import { number, people } from '../../words/say.ts'
import JoiningDialog from './JoiningDialog.vue'
import JoiningLine from './JoiningLine.vue'
import ShowNames from './ShowNames.vue'
import { useShown } from './use-shown.ts'
import { useJoinings } from './use-joinings.ts'
import { common } from '../../words/common.ts'
import { joiningsPanel } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(joiningsPanel)

/** People on both phones: joined into one record or kept both, one by one or by a rule; and put back as they were. */
const props = defineProps<{
  ticket: string
  kind: string
  canDecide: boolean
  canUndo: boolean
  showingUntil: string | null
  stamp: string
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
const decide = (body: z.input<typeof routes.decide.body>) => emit('act', 'join', ofKind(calls.decide, props.kind, body))
const undo = (keys?: string[]) => emit('act', 'undo', ofKind(calls.undoJoinings, props.kind, keys ? { keys } : {}))
const open = (row: JoiningRow) => {
  if (isShowing.value) opened.value = row
  else emit('show')
}
</script>

<template>
  <ListPanel head="joinings-head" :close="common.closeList" @close="emit('close')">
    <template #title>
      {{ said.onBothPhones
      }}<template v-if="counts"
        >: <span data-testid="joinings-total">{{ people(counts.all) }}</span></template
      >
    </template>
    <p class="mb-2 text-xs text-soft">
      {{ said.joinedOneRecordSays }}
    </p>
    <template v-if="counts && canDecide">
      <div class="mb-1.5 grid gap-1.5">
        <AppButton v-if="counts.sure > 0" class="w-full" :busy="busy === 'join'" @click="decide({ rule: 'sure' })">{{
          said.joinWhoShareName(number(counts.sure))
        }}</AppButton>
        <div v-if="counts.can > 0" class="grid grid-cols-2 gap-1.5">
          <SmallButton @click="decide({ rule: 'all' })">{{ said.joinAll(number(counts.can)) }}</SmallButton>
          <SmallButton :disabled="counts.toJoin === 0" @click="decide({ rule: 'none' })">{{ said.keepAllAsTwo }}</SmallButton>
        </div>
      </div>
    </template>
    <AppButton v-if="counts && canUndo && counts.joined > 0" look="danger" class="mb-1.5 w-full" :busy="busy === 'undo'" @click="undo()">{{
      said.putBack(people(counts.joined))
    }}</AppButton>
    <ShowNames v-if="!isShowing" @click="emit('show')" />
    <SentenceBox v-if="sentence" tone="bad">{{ sentence }}</SentenceBox>
    <p v-else-if="counts?.all === 0" class="p-3 text-soft">{{ said.nobodyIs }}</p>
    <VirtualList :count="rows.length" :row-height="62" :key-of="(i) => rows[i]!.key" :label="said.peopleOnBothPhones" @more="more()">
      <template #default="{ index, stop }">
        <JoiningLine
          v-if="rows[index]"
          :row="rows[index]!"
          :is-showing="isShowing"
          :can-decide="canDecide"
          :can-undo="canUndo"
          :stop="stop"
          @open="open(rows[index]!)"
          @decide="(decision) => decide({ keys: [rows[index]!.key], decision })"
          @undo="undo([rows[index]!.key])"
        />
      </template>
    </VirtualList>
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
  </ListPanel>
</template>
