import { computed, onMounted, ref, watch, type Ref } from 'vue'
import { sentenceOf } from '../../composables/use-api.ts'
import { useEvents } from '../../composables/use-events.ts'
import { useNow } from '../../composables/use-now.ts'
import { useSession } from '../../stores/session.ts'
import { useTickets } from '../../stores/tickets.ts'
import { mayChoose } from '../../words/standing.ts'

/** A ticket followed: loaded, kept up by what happens, and looked at again where its plan or its showing moves by itself. */
export function useTicket(number: Ref<string>) {
  const store = useTickets()
  const session = useSession()
  const now = useNow()
  const ticket = computed(() => store.byNumber[number.value])
  const sentence = ref('')
  async function look() {
    try {
      await store.loadTicket(number.value)
      sentence.value = ''
    } catch (error) {
      sentence.value = sentenceOf(error)
    }
  }
  onMounted(look)
  useEvents((event) => event.what === 'bench' || (event.ticket === number.value && !store.knows(number.value, event.change)), look)
  // room on the new phone is part of the plan, and moves without anybody touching the ticket
  watch(
    () => ticket.value?.new.freeBytes,
    (free, before) => {
      if (before !== undefined && free !== before && ticket.value?.plan && !ticket.value.run) void look()
    },
  )
  // showing ends by itself: what is on the page goes then, too
  watch(now, (at) => {
    if (ticket.value?.showingUntil && Date.parse(ticket.value.showingUntil) <= at) void look()
  })
  return {
    ticket,
    sentence,
    now,
    zone: computed(() => session.session?.shop.zone ?? 'Europe/London'),
    /** Another text whenever some count moved: what shows items looks again. */
    stamp: computed(() => (ticket.value?.ledger ?? []).flatMap((r) => Object.values(r.fates)).join()),
    canChoose: (kind?: string) => ticket.value !== undefined && mayChoose(ticket.value, kind),
  }
}
