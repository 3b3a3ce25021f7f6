<script setup lang="ts">
import { computed, watch } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { useLive } from '../../composables/use-live.ts'
import { useStations } from '../../composables/use-stations.ts'
import { ago, touchLine } from '../../words/say.ts'
import { needLine } from '../../words/standing.ts'
import { words } from '../../words/words.ts'
import { common } from '../../words/common.ts'
import { touchNow } from '../../words/ticket.ts'
import { useSaid } from './side-names.ts'

const said = useSaid(touchNow)

/** What waits for a finger on this ticket's phones, and since when; in every stage. */
const props = defineProps<{ ticket: TicketView; now: number }>()
const touches = computed(() =>
  (['old', 'new'] as const).flatMap((side) => {
    const [phone, ready] = [props.ticket[side], props.ticket.ready[side]]
    const name = `${words.sides[side]}${phone.port ? said.port(phone.port) : ` ${phone.model}`}`
    if (ready.asks) return [{ side, name, say: touchLine(ready.asks.question), sinceMs: ready.asks.sinceMs }]
    // before the work begins the board says the rest
    if (phone.isReady || props.ticket.restingAt || ['book-in', 'make-ready', 'hand-back'].includes(props.ticket.stage)) return []
    return [{ side, name, say: needLine(phone), sinceMs: phone.waitsSinceMs ?? 0 }]
  }),
)
const { nameOf } = useStations()
/** Nothing can be carried between two benches. */
const apart = computed(() => {
  const [old, now] = [props.ticket.old.station, props.ticket.new.station]
  return old && now && old !== now && !props.ticket.handedBackAt ? said.atTwoBenches(nameOf(old), nameOf(now)) : ''
})
const { say } = useLive()
watch(
  () => [...touches.value.map((touch) => `${touch.name}: ${touch.say}`), apart.value].filter(Boolean).join('. '),
  (line) => say(line && said.touchNow(line), { now: true }),
  { immediate: true },
)
</script>

<template>
  <section
    v-if="(touches.length > 0 || apart) && !ticket.erasedAt"
    class="flex flex-wrap items-center gap-3 border-b border-ochre/30 bg-ochre-pale px-6 py-2"
    :aria-label="common.touchNow"
  >
    <h2 class="text-[0.95rem] text-ochre">{{ common.touchNow }}</h2>
    <p v-if="apart" class="rounded-[3px] border border-ochre/50 bg-sheet px-2.5 py-0.5 font-semibold text-ochre" data-touch="apart">
      {{ apart }}
    </p>
    <p
      v-for="t in touches"
      :key="t.side"
      class="rounded-[3px] border border-ochre/50 bg-sheet px-2.5 py-0.5 font-semibold text-ochre"
      :data-touch="t.side"
    >
      {{ t.name }}: {{ t.say }}<template v-if="t.sinceMs > 0">, {{ ago(t.sinceMs, now) }}</template>
    </p>
  </section>
</template>
