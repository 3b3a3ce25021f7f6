import { ref, watch, type Ref } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'

export interface PickedNeed {
  readonly side: 'old' | 'new'
  readonly code: string
}

const settled: readonly string[] = ['met', 'ticked', 'waived']

/** The need whose steps are shown; once it is met it gives way to what comes next. */
export function useReadyPick(ticket: Ref<TicketView | undefined>) {
  const picked = ref<PickedNeed | null>(null)
  watch(
    () => picked.value && ticket.value?.ready[picked.value.side].needs.find((need) => need.code === picked.value!.code)?.state,
    (state, before) => {
      if (before && state && settled.includes(state) && !settled.includes(before)) picked.value = null
    },
  )
  return picked
}
