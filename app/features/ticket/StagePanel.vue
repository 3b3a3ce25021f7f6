<script setup lang="ts">
import type { TicketCall } from './ticket-call.ts'
import type { GroupedBy } from './opened.ts'
import type { EntryFilter, LedgerRow } from '#contracts/http/ledger.ts'
import type { Stage, TicketView } from '#contracts/http/ticket.ts'
import { clock } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import BookInPanel from './panels/BookInPanel.vue'
import CarryPanel from './panels/CarryPanel.vue'
import CheckPanel from './panels/CheckPanel.vue'
import ChoosePanel from './panels/ChoosePanel.vue'
import CountInPanel from './panels/CountInPanel.vue'
import HandBackPanel from './panels/HandBackPanel.vue'
import ReadyPanel from './panels/ReadyPanel.vue'
import StraightBox from './StraightBox.vue'
import { stagePanel } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(stagePanel)

/** What the shown stage offers. */
defineProps<{
  ticket: TicketView
  row: LedgerRow
  stage: Stage
  busy: string
  zone: string
  picked: { side: 'old' | 'new'; code: string } | null
}>()
defineEmits<{
  act: [name: string, call: TicketCall]
  open: [filter: EntryFilter, reason?: string, kind?: string]
  groups: [by: GroupedBy]
  joinings: [kind?: string]
  show: []
  carry: []
  choose: []
  stage: [stage: Stage]
  kinds: []
}>()
</script>

<template>
  <div :data-panel="stage">
    <h2 class="mb-2 text-[0.95rem]">{{ words.stages[stage] }}</h2>
    <p
      v-if="ticket.voidedAt && !ticket.erasedAt"
      class="mb-3 border-l-4 border-madder bg-madder-pale px-2.5 py-2 text-madder"
      data-testid="void"
    >
      {{ said.signedSheetIsVoid(clock(ticket.voidedAt, zone)) }}
    </p>
    <StraightBox :ticket="ticket" :busy="busy" @act="(n, call) => $emit('act', n, call)" @stage="(s) => $emit('stage', s)" />
    <BookInPanel
      v-if="stage === 'book-in'"
      :ticket="ticket"
      :busy="busy"
      :zone="zone"
      @act="(n, call) => $emit('act', n, call)"
      @show="$emit('show')"
      @kinds="$emit('kinds')"
    />
    <ReadyPanel
      v-else-if="stage === 'make-ready'"
      :ticket="ticket"
      :busy="busy"
      :picked="picked"
      @act="(n, call) => $emit('act', n, call)"
    />
    <CountInPanel
      v-else-if="stage === 'count-in'"
      :ticket="ticket"
      :busy="busy"
      @act="(n, call) => $emit('act', n, call)"
      @show="$emit('show')"
      @choose="$emit('choose')"
    />
    <ChoosePanel
      v-else-if="stage === 'choose'"
      :ticket="ticket"
      :row="row"
      :busy="busy"
      @act="(n, call) => $emit('act', n, call)"
      @open="(f, r) => $emit('open', f, r)"
      @groups="(by) => $emit('groups', by)"
      @joinings="$emit('joinings')"
      @carry="$emit('carry')"
    />
    <CarryPanel
      v-else-if="stage === 'carry-over'"
      :ticket="ticket"
      :busy="busy"
      @act="(n, call) => $emit('act', n, call)"
      @carry="$emit('carry')"
      @choose="$emit('choose')"
    />
    <CheckPanel
      v-else-if="stage === 'check-off'"
      :ticket="ticket"
      :row="row"
      :busy="busy"
      :zone="zone"
      @act="(n, call) => $emit('act', n, call)"
      @open="(f, r, k) => $emit('open', f, r, k)"
      @joinings="$emit('joinings')"
      @show="$emit('show')"
      @carry="$emit('carry')"
    />
    <HandBackPanel v-else :ticket="ticket" :busy="busy" :zone="zone" @act="(n, call) => $emit('act', n, call)" @show="$emit('show')" />
  </div>
</template>
