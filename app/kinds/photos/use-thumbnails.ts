import type { EntryFilter } from '#contracts/http/ledger.ts'
import { calls } from '#contracts/http/calls.ts'
import { ask } from '../../composables/use-api.ts'
import { onScopeDispose, ref, watch, type Ref } from 'vue'

/** How many pictures are asked for at once: a phone gives one after the other anyway. */
const atOnce = 3

/**
 * Small pictures of the tiles in view, and of no others: what was scrolled away before its turn is not asked for.
 * Gone from the page as soon as showing ends.
 * @param fetchOne gives a picture's address, or undefined where there is none
 */
export function useThumbnails({
  number,
  kind,
  filter,
  isShowing,
}: {
  number: Ref<string>
  kind: Ref<string>
  filter: Ref<EntryFilter>
  isShowing: Ref<boolean>
}) {
  const pictures = ref<Record<string, string | null>>({})
  let wanted: string[] = []
  let running = 0
  let abort = new AbortController()

  function forget() {
    abort.abort()
    abort = new AbortController()
    for (const url of Object.values(pictures.value)) if (url) URL.revokeObjectURL(url)
    pictures.value = {}
  }

  async function fetchOne(key: string, signal: AbortSignal): Promise<string | null | undefined> {
    const input = { params: { number: number.value }, body: { kind: kind.value, key, filter: filter.value }, signal }
    const response = await ask(calls.thumbnail, input).catch(() => undefined)
    if (!response?.ok) return undefined
    const blob = await response.blob()
    return blob.size > 0 ? URL.createObjectURL(blob) : null
  }

  function next() {
    if (!isShowing.value) return
    while (running < atOnce) {
      const key = wanted.find((one) => !(one in pictures.value))
      if (key === undefined) return
      wanted = wanted.filter((one) => one !== key)
      running++
      const { signal } = abort
      void fetchOne(key, signal)
        .then((url) => {
          if (url === undefined) return
          if (signal.aborted && url) URL.revokeObjectURL(url)
          if (!signal.aborted) pictures.value[key] = url
        })
        .finally(() => {
          running--
          next()
        })
    }
  }

  /** Says which tiles are in view now. */
  function show(keys: readonly string[]) {
    wanted = keys.filter((key) => !(key in pictures.value))
    next()
  }

  watch([number, filter], forget)
  watch(isShowing, (is) => (is ? next() : forget()))
  onScopeDispose(forget)
  return { pictures, show }
}
