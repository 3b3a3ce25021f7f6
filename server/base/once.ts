/**
 * Answers many askers by one computation: whoever asks while one is under way gets the next one, which all that ask
 * meanwhile share, so that nobody is told what was so before they asked.
 */
export function together<Asked, T>(compute: (asked: Asked) => Promise<T>): (asked: Asked) => Promise<T> {
  let running: Promise<unknown> = Promise.resolve()
  let next: Promise<T> | undefined
  return (asked) =>
    (next ??= (async () => {
      await running
      const mine = compute(asked)
      running = mine.catch(() => undefined)
      next = undefined
      return mine
    })())
}
