import { computed, type ComputedRef, type Ref } from 'vue'
import { useEvents } from '../../composables/use-events.ts'
import { useNow } from '../../composables/use-now.ts'

/**
 * Whether names stand on the page: the server gave them, nobody hid them since, their time is not over, and whoever
 * could end it can be heard. They go at once, before anybody has answered.
 */
export function useShown(until: Ref<string | null>, isGiven: Ref<boolean>): ComputedRef<boolean> {
  const now = useNow(1000)
  const { isConnected } = useEvents(
    () => false,
    () => Promise.resolve(),
  )
  return computed(() => isGiven.value && until.value !== null && Date.parse(until.value) > now.value && isConnected.value)
}
