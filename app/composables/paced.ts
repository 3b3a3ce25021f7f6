/** Between two looks: soon at first, and less often while there is always something new. */
const shortestMs = 150
const longestMs = 700

/**
 * Looks when it is asked: at once, then after a rest that grows while it is asked again and again, and once more after
 * the last. What must not wait ends the rest.
 */
export function paced(look: () => Promise<unknown>): (how?: { readonly atOnce?: boolean }) => Promise<void> {
  let isLooking = false
  let isAsked = false
  let isUrgent = false
  let restMs = shortestMs
  let endRest = () => {}
  const rest = () =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, isUrgent ? 0 : restMs)
      endRest = () => {
        clearTimeout(timer)
        resolve()
      }
    })
  return async ({ atOnce = false } = {}) => {
    if (isLooking) {
      isAsked = true
      isUrgent ||= atOnce
      if (atOnce) endRest()
      return
    }
    isLooking = true
    do {
      isAsked = false
      isUrgent = false
      await look().catch(() => undefined)
      await rest()
      restMs = isAsked ? Math.min(restMs * 2, longestMs) : shortestMs
    } while (isAsked)
    isLooking = false
  }
}
