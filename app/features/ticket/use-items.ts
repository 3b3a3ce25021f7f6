import type { z } from 'zod'
import { routes } from '#contracts/http/routes.ts'
import { ref, watch, type Ref } from 'vue'
import type { EntryFilter, EntryRow } from '#contracts/http/ledger.ts'
import { api, ApiFailure } from '../../composables/use-api.ts'

export interface ItemsWish {
  readonly kind: string
  readonly filter: EntryFilter
  readonly facet: string
  readonly storage: string
  readonly reason: string
  readonly group: string
  readonly when: string
  readonly text: string
}

type Page = z.output<typeof routes.entries.reply>

/** The items behind a count: a page at first, further pages as they are scrolled to. A changed wish fetches one page. */
export function useItems(number: Ref<string>, wish: Ref<ItemsWish>) {
  const rows = ref<EntryRow[]>([])
  const total = ref<number | null>(null)
  const isShowing = ref(false)
  const sentence = ref('')
  let next: string | null = null
  let isLoading = false
  let abort = new AbortController()

  async function fetchPage(after: string | null, limit = 60): Promise<Page | undefined> {
    const { signal } = abort
    try {
      const page = await api(routes.entries, { params: { number: number.value }, body: { ...wish.value, after, limit }, signal })
      return signal.aborted ? undefined : page
    } catch (error) {
      if (error instanceof ApiFailure) sentence.value = error.sentence
      return undefined
    }
  }

  async function load() {
    abort.abort()
    abort = new AbortController()
    sentence.value = ''
    const page = await fetchPage(null)
    if (!page) return
    rows.value = page.rows
    isShowing.value = page.isShowing
    next = page.next
    await count(page.total)
  }

  /** The page comes first; a count that costs more follows it. */
  async function count(known: number | null) {
    total.value = known
    if (known !== null) return
    const { signal } = abort
    const counted = await api(routes.countEntries, { params: { number: number.value }, body: wish.value, signal }).catch(() => undefined)
    if (counted && !signal.aborted) total.value = counted.total
  }

  /** Fetches the next page when the last rows come near. */
  async function more() {
    if (next === null || isLoading) return
    isLoading = true
    const page = await fetchPage(next)
    isLoading = false
    if (!page) return
    rows.value = [...rows.value, ...page.rows]
    next = page.next
  }

  /** Looks again without losing the place: what is loaded is loaded anew. */
  async function refresh() {
    if (isLoading) return
    const wanted = Math.min(200, Math.max(60, rows.value.length))
    const page = await fetchPage(null, wanted)
    if (!page || rows.value.length > wanted) return
    rows.value = page.rows
    isShowing.value = page.isShowing
    next = page.next
    // a count that is not kept stands until something else is asked for
    if (page.total !== null) total.value = page.total
  }

  watch([number, wish], load, { immediate: true, deep: true })
  return { rows, total, isShowing, sentence, load, more, refresh }
}
