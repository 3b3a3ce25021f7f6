import { ref } from 'vue'

/** So often at most is something said aloud. */
const everyMs = 10_000
const said = ref('')
let next: string | undefined
let lastAt = -Infinity
let timer: ReturnType<typeof setTimeout> | undefined

/**
 * The one place that speaks to those who listen: what stands last is said, at most every 10 s, however fast it moves.
 * What must be touched now does not wait its turn.
 */
export function useLive() {
  function speak(text: string) {
    said.value = text
    lastAt = Date.now()
  }
  function wait() {
    clearTimeout(timer)
    timer = setTimeout(
      () => {
        if (next !== undefined) speak(next)
        next = undefined
      },
      Math.max(0, lastAt + everyMs - Date.now()),
    )
  }
  return {
    said,
    say(text: string, { now = false } = {}) {
      if (!text) return
      if (now) speak(text)
      else next = text
      if (next !== undefined) wait()
    },
  }
}
