import { ref } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { TicketSummary } from '#contracts/http/ticket.ts'
import { api, sentenceOf } from '../../composables/use-api.ts'

/** A ticket that is signed, called off or erased already is not called off. */
export const canCallOff = ({ signedAt, calledOff, erasedAt }: Pick<TicketSummary, 'signedAt' | 'calledOff' | 'erasedAt'>) =>
  !signedAt && !calledOff && !erasedAt

/**
 * Calls a ticket off from wherever it is shown.
 * @param refused told the sentence when it may not be
 * @param done told that it was
 */
export function useCallOff(refused: (sentence: string) => void, done: () => void = () => undefined) {
  const asks = ref<TicketSummary | null>(null)
  const fail = (error: unknown) => refused(sentenceOf(error))
  /** Asks about a ticket of which only the number is here: what it leaves behind is read first. */
  async function askFor(number: string) {
    await api(calls.ticket, { params: { number } }).then((ticket) => (asks.value = ticket), fail)
  }
  async function callOff(body: { why: string; takeAway: boolean; typed: string }) {
    const { number } = asks.value!
    asks.value = null
    await api(calls.callOff, { params: { number }, body }).then(done, fail)
  }
  return { asks, askFor, callOff }
}
