import type { z } from 'zod'
import { routes } from '#contracts/http/routes.ts'
import { ref, watch, type Ref } from 'vue'
import type { GroupRow } from '#contracts/http/ledger.ts'
import { api, ApiFailure } from '../../composables/use-api.ts'
import type { OpenedGroups } from './opened.ts'

type Page = z.output<typeof routes.groups.reply>

/** Slices of a kind on one side, a page at a time. A late answer never overwrites a newer one. */
export function useGroups(number: Ref<string>, wish: Ref<OpenedGroups>) {
  const rows = ref<GroupRow[]>([])
  const total = ref<number | null>(null)
  const isShowing = ref(false)
  const sentence = ref('')
  let asked = 0
  let isLoading = false

  async function fetchPage(after: number, limit: number): Promise<Page | undefined> {
    const mine = ++asked
    try {
      const page = await api(routes.groups, { params: { number: number.value }, body: { ...wish.value, after, limit } })
      return mine === asked ? page : undefined
    } catch (error) {
      if (error instanceof ApiFailure) sentence.value = error.sentence
      return undefined
    }
  }
  function take(page: Page | undefined, before: readonly GroupRow[]) {
    if (!page) return
    rows.value = [...before, ...page.rows]
    total.value = page.total
    isShowing.value = page.isShowing
  }
  /** Looks again without losing the place. */
  async function refresh() {
    take(await fetchPage(0, Math.min(200, Math.max(60, rows.value.length))), [])
  }
  async function more() {
    if (isLoading || total.value === null || rows.value.length >= total.value) return
    isLoading = true
    const before = rows.value
    take(await fetchPage(before.length, 60), before)
    isLoading = false
  }
  watch(
    [number, wish],
    () => {
      rows.value = []
      total.value = null
      void refresh()
    },
    { immediate: true, deep: true },
  )
  return { rows, total, isShowing, sentence, more, refresh }
}
