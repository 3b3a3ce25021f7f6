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
  let isLoading = false
  let abort = new AbortController()

  async function fetchPage(after: Cursor | null, limit: number): Promise<Page | undefined> {
    const { signal } = abort
    try {
      const got = await pages.fetch(after, limit, signal)
      return signal.aborted ? undefined : got
    } catch (error) {
      if (error instanceof ApiFailure) sentence.value = error.sentence
      return undefined
    }
  }
  function take(got: Page, before: readonly Row[]) {
    rows.value = [...before, ...pages.rowsOf(got)]
    page.value = got
    isShowing.value = got.isShowing
    next = pages.nextOf(got, rows.value.length)
  }

  async function load(): Promise<void> {
    abort.abort()
    abort = new AbortController()
    const { signal } = abort
    sentence.value = ''
    const got = await fetchPage(null, pageSize)
    if (!got) return
    take(got, [])
    await pages.onFirst?.(got, signal)
  }

  /** Fetches the next page when the last rows come near. */
  async function more(): Promise<void> {
    if (next === null || isLoading) return
    isLoading = true
    const before = rows.value
    const got = await fetchPage(next, pageSize)
    isLoading = false
    if (got && rows.value === before) take(got, before)
  }

  /** Looks again without losing the place: what is loaded is loaded anew. */
  async function refresh(): Promise<void> {
    if (isLoading) return
    const wanted = Math.min(mostAnew, Math.max(pageSize, rows.value.length))
    const got = await fetchPage(null, wanted)
    if (got && rows.value.length <= wanted) take(got, [])
  }

  watch(pages.of as WatchSource<unknown>[], load, { immediate: true, deep: true })
  return { rows, page, isShowing, sentence, more, refresh }
}
