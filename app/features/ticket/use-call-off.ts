import { ref } from 'vue'
import { routes } from '#contracts/http/routes.ts'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import { api, ApiFailure } from '../../composables/use-api.ts'

/** Calls a ticket off from a list it stands in. @param refused told the sentence when it may not be */
export function useCallOff(refused: (sentence: string) => void) {
  const asks = ref<TicketSummary | null>(null)
  async function callOff(body: { why: string; takeAway: boolean; typed: string }) {
    const { number } = asks.value!
    asks.value = null
    await api(routes.callOff, { params: { number }, body }).catch((error: unknown) =>
      refused(error instanceof ApiFailure ? error.sentence : 'Try again.'),
    )
  }
  return { asks, callOff }
}
