import { useIntervalFn } from '@vueuse/core'
import { ref } from 'vue'

/** The time, to the half minute: enough for promises and waits. */
export function useNow(everyMs = 15_000) {
  const now = ref(Date.now())
  useIntervalFn(() => (now.value = Date.now()), everyMs)
  return now
}
