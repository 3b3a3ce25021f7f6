import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'

/** The time, to the half minute: enough for promises and waits. */
export function useNow() {
  const now = ref(Date.now())
  useIntervalFn(() => (now.value = Date.now()), 15_000)
  return now
}
