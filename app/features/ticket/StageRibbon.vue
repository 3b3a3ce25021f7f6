<script setup lang="ts">
import { Check } from '@lucide/vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { Stage, TicketView } from '#contracts/http/ticket.ts'
import { stages } from '#contracts/http/sets.ts'
import { countOpenNeeds } from '#core/phones/needs.ts'
import { number } from '../../words/say.ts'
import { words } from '../../words/words.ts'
import { stageRibbon } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(stageRibbon)

/** The seven stages. Pressing one changes what the panel offers; nothing is hidden. */
const props = defineProps<{ ticket: TicketView; shown: Stage }>()
defineEmits<{ show: [stage: Stage] }>()

const at = () => stages.indexOf(props.ticket.stage)
const isDone = (stage: Stage) => stages.indexOf(stage) < at() || props.ticket.erasedAt !== null
function note(stage: Stage): string {
  const { ticket } = props
  const sum = (of: (row: LedgerRow) => number) => ticket.ledger.reduce((total, row) => total + of(row), 0)
  const needs = [...ticket.ready.old.needs, ...ticket.ready.new.needs]
  const unmet = countOpenNeeds(needs)
  const waived = needs.filter((need) => need.state === 'waived').length
  const openSettings = [...ticket.ready.old.putBack, ...ticket.ready.new.putBack].filter((item) => item.state === 'open').length
  if (ticket.erasedAt) return stage === 'hand-back' ? said.erased : ''
  // what was changed for the move is being put back: nothing of it is to be seen to
  if (stage === 'make-ready' && ticket.stage === 'hand-back') return ''
  if (stage === 'make-ready')
    return unmet.now + unmet.later > 0 ? said.toSeeTo(unmet.now) : waived > 0 ? said.waived(waived) : said.bothReady
  const [read, first] = [sum((r) => r.old.read + r.old.late), sum((r) => r.new.first ?? 0)]
  if (stage === 'count-in') return read + first > 0 ? said.counted(number(read), number(first)) : ''
  const notChosen = sum((r) => r.fates.notChosen)
  if (stage === 'choose' && isDone('count-in')) return notChosen > 0 ? said.notChosen(number(notChosen)) : said.all
  const over = sum((r) => r.fates.carried + r.fates.changed)
  if (stage === 'carry-over') return over > 0 ? said.over(number(over)) : ''
  if (stage === 'check-off' && ticket.ledger.some((r) => r.new.last !== null)) {
    const [short, tooMany] = [sum((r) => r.short), sum((r) => r.over)]
    return short + tooMany > 0 ? said.differs(number(short), number(tooMany)) : said.found(number(sum((r) => r.new.last ?? 0)))
  }
  if (stage === 'hand-back') return ticket.signedAt ? said.signed : openSettings > 0 ? said.toPutBack(openSettings) : ''
  return ''
}
</script>

<template>
  <nav class="border-b border-rule bg-panel px-6 max-md:px-3" :aria-label="said.stages">
    <ol class="grid grid-cols-7 gap-3 max-md:grid-cols-4 max-md:gap-x-2 max-md:gap-y-0">
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
            <Check v-if="isDone(stage)" :size="14" class="text-verdigris" :aria-label="said.done" />{{ words.stages[stage] }}
          </span>
          <span class="block h-4 truncate text-xs text-soft">{{ note(stage) }}</span>
          <span v-if="stage === ticket.stage" class="absolute inset-x-0 bottom-0 h-[5px] border-y-2 border-ink" aria-hidden="true" />
          <span v-else-if="stage === shown" class="absolute inset-x-0 bottom-0 h-0.5 bg-faint" aria-hidden="true" />
        </button>
      </li>
    </ol>
  </nav>
</template>
