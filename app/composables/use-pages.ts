import { ref, shallowRef, watch, type Ref, type WatchSource } from 'vue'
import { ApiFailure } from './use-api.ts'

export interface Pages<Row, Page, Cursor> {
  /** What the list is of: another makes it begin anew. */
  readonly of: readonly WatchSource<unknown>[]
  /** @param after null for the first page */
  readonly fetch: (after: Cursor | null, limit: number, signal: AbortSignal) => Promise<Page>
  readonly rowsOf: (page: Page) => readonly Row[]
  /** Where the next page begins; null after the last. `n`: how many rows are there by now. */
  readonly nextOf: (page: Page, n: number) => Cursor | null
  /** The first page of something else has come. */
  readonly onFirst?: (page: Page, signal: AbortSignal) => Promise<void>
}

const pageSize = 60
const mostAnew = 200

/** A list a page at a time: the first at once, more as it is scrolled. A late answer never overwrites a newer one. */
export function usePages<Row, Page extends { isShowing: boolean }, Cursor>(pages: Pages<Row, Page, Cursor>) {
  const rows: Ref<Row[]> = shallowRef([])
  const page = shallowRef<Page | null>(null)
  const isShowing = ref(false)
  const sentence = ref('')
  let next: Cursor | null = null
  let abort = new AbortController()
  /** The list whose request is on its way; another list does not wait for it. */
  let busy: AbortSignal | null = null
  let isStale = false

  /** One request of a list at a time: a late answer never overwrites a newer one. @returns whether it is the same list still */
  async function ask(after: Cursor | null, limit: number, take: (got: Page) => void): Promise<boolean> {
    const { signal } = abort
    busy = signal
    try {
      const got = await pages.fetch(after, limit, signal)
      if (!signal.aborted) take(got)
    } catch (error) {
      if (!signal.aborted && error instanceof ApiFailure) sentence.value = error.sentence
    }
    if (signal.aborted) return false
    busy = null
    if (isStale) {
      isStale = false
      void refresh()
    }
    return true
  }
  function show(got: Page, before: readonly Row[]) {
    rows.value = [...before, ...pages.rowsOf(got)]
    page.value = got
    isShowing.value = got.isShowing
    next = pages.nextOf(got, rows.value.length)
  }

  async function load(): Promise<void> {
    abort.abort()
    abort = new AbortController()
    isStale = false
    sentence.value = ''
    const { signal } = abort
    let first: Page | undefined
    const isSame = await ask(null, pageSize, (got) => show((first = got), []))
    if (isSame && first) await pages.onFirst?.(first, signal)
  }

  /** Fetches the next page when the last rows come near. */
  async function more(): Promise<void> {
    if (next !== null && busy !== abort.signal) await ask(next, pageSize, (got) => show(got, rows.value))
  }

  /** Looks again without losing the place: what is loaded is loaded anew, as far as it is few. */
  async function refresh(): Promise<void> {
    if (busy === abort.signal) {
      isStale = true
      return
    }
    const isFew = rows.value.length <= mostAnew
    const wanted = Math.min(mostAnew, Math.max(pageSize, rows.value.length))
    // of a longer list the sums alone are new: its rows stay where they are looked at
    await ask(null, wanted, (got) => (isFew ? show(got, []) : void (page.value = got)))
  }

  watch(pages.of as WatchSource<unknown>[], load, { immediate: true, deep: true })
  return { rows, page, isShowing, sentence, more, refresh }
}
