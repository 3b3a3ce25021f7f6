<script setup lang="ts">
import { Check } from '@lucide/vue'
import { stages, type Stage, type TicketView } from '#contracts/http/ticket.ts'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'

/** The seven stages. Pressing one changes what the panel offers; nothing is hidden. */
const props = defineProps<{ ticket: TicketView; shown: Stage }>()
defineEmits<{ show: [stage: Stage] }>()

const at = () => stages.indexOf(props.ticket.stage)
const isDone = (stage: Stage) => stages.indexOf(stage) < at() || props.ticket.erasedAt !== null
function note(stage: Stage): string {
  const { ticket } = props
  const [row] = ticket.ledger
  const needs = [...ticket.ready.old.needs, ...ticket.ready.new.needs]
  const unmet = needs.filter((need) => need.weight === 'must' && ['unmet', 'ask', 'later'].includes(need.state)).length
  const waived = needs.filter((need) => need.state === 'waived').length
  const openSettings = [...ticket.ready.old.putBack, ...ticket.ready.new.putBack].filter((item) => item.state === 'open').length
  if (ticket.erasedAt) return stage === 'hand-back' ? 'erased' : ''
  if (stage === 'make-ready') return unmet > 0 ? `${unmet} to see to` : waived > 0 ? `${waived} waived` : 'both ready'
  if (stage === 'count-in' && row) return row.new.first !== null || row.old.read > 0 ? `${number(row.old.read + row.old.late)} and ${number(row.new.first ?? 0)}` : ''
  if (stage === 'choose' && isDone('count-in') && row) return row.fates.notChosen > 0 ? `${number(row.fates.notChosen)} not chosen` : 'all'
  if (stage === 'carry-over' && row) return row.fates.carried + row.fates.changed > 0 ? `${number(row.fates.carried + row.fates.changed)} over` : ''
  if (stage === 'check-off' && row?.new.last != null) return row.short + row.over > 0 ? `${number(row.short)} short, ${number(row.over)} over` : `${number(row.new.last)} found`
  if (stage === 'hand-back') return ticket.signedAt ? 'signed' : openSettings > 0 ? `${openSettings} to put back` : ''
  return ''
}
</script>

<template>
  <nav class="border-b border-rule bg-panel px-6" aria-label="Stages">
    <ol class="grid grid-cols-7 gap-3">
      <li v-for="stage in stages" :key="stage">
        <button
          type="button"
          class="relative w-full py-2 text-left"
          :class="{ 'text-faint': !isDone(stage) && stage !== ticket.stage }"
          :aria-current="stage === ticket.stage ? 'step' : undefined"
          :aria-pressed="stage === shown"
          :data-state="isDone(stage) ? 'done' : stage === ticket.stage ? 'now' : 'ahead'"
          @click="$emit('show', stage)"
        >
          <span class="flex items-center gap-1 font-head font-semibold">
            <Check v-if="isDone(stage)" :size="14" class="text-verdigris" aria-label="done:" />{{ words.stages[stage] }}
          </span>
          <span class="block h-4 truncate text-xs text-soft">{{ note(stage) }}</span>
          <span v-if="stage === ticket.stage" class="absolute inset-x-0 bottom-0 h-[5px] border-y-2 border-ink" aria-hidden="true" />
          <span v-else-if="stage === shown" class="absolute inset-x-0 bottom-0 h-0.5 bg-faint" aria-hidden="true" />
        </button>
      </li>
    </ol>
  </nav>
</template>
