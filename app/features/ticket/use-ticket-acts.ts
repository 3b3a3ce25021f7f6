import { ref, type Ref } from 'vue'
import { api, ApiFailure, sentenceOf } from '../../composables/use-api.ts'
import { useTickets } from '../../stores/tickets.ts'
import type { TicketCall } from './ticket-call.ts'

/** What a technician does to a ticket; one act at a time, its failure as a sentence. */
export function useTicketActs(number: Ref<string>) {
  const store = useTickets()
  const busy = ref('')
  const failure = ref<ApiFailure | null>(null)

  let running: Promise<void> = Promise.resolve()
  const waiting = new Set<string>()

  async function act(name: string, { call, kind, body }: TicketCall): Promise<boolean> {
    // a click made twice is one; another act, or the same of something else, waits its turn
    const same = JSON.stringify([name, call.path, kind, body])
    if (waiting.has(same)) return false
    waiting.add(same)
    const before = running
    let done = () => undefined as void
    running = new Promise((resolve) => (done = resolve))
    await before
    busy.value = name
    failure.value = null
    let isKept = false
    try {
      isKept = await store.acting(number.value, () =>
        api(call, { params: { number: number.value, kind }, query: { with: 'ticket' }, body }),
      )
      return true
    } catch (error) {
      failure.value = error instanceof ApiFailure ? error : new ApiFailure('Internal', sentenceOf(error))
      return false
    } finally {
      busy.value = ''
      waiting.delete(same)
      done()
      // what went wrong may have changed something all the same
      if (!isKept) await store.loadTicket(number.value).catch(() => undefined)
    }
  }
  return { busy, failure, act }
}
