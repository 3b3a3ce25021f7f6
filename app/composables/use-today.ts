import { onMounted, ref } from 'vue'
import { useTickets } from '../stores/tickets.ts'
import { sentenceOf } from './use-api.ts'
import { useEvents } from './use-events.ts'

/** Today's tickets and the bench, followed; a failure as its sentence. */
export function useToday() {
  const store = useTickets()
  const sentence = ref('')
  async function look() {
    try {
      await store.loadToday()
      sentence.value = ''
    } catch (error) {
      sentence.value = sentenceOf(error)
    }
  }
  onMounted(look)
  useEvents((event) => event.what === 'ticket' || event.what === 'bench', look)
  return { store, sentence, look }
}
