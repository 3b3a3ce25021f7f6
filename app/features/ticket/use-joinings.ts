import { routes } from '#contracts/http/routes.ts'
import { ref, watch, type Ref } from 'vue'
import type { JoiningPage, JoiningRow } from '#contracts/http/ledger.ts'
import { api, ApiFailure } from '../../composables/use-api.ts'

/** People on both phones, a page at a time. A late answer never overwrites a newer one. */
export function useJoinings(number: Ref<string>, kind: Ref<string>) {
  const rows = ref<JoiningRow[]>([])
  const counts = ref<JoiningPage['counts'] | null>(null)
  const isShowing = ref(false)
  const sentence = ref('')
  let next: string | null = null
  let asked = 0

  async function take(after: string | null, limit: number, before: readonly JoiningRow[]) {
    const mine = ++asked
    try {
      const page = await api(routes.joinings, { params: { number: number.value }, body: { kind: kind.value, after, limit } })
      if (mine !== asked) return
      rows.value = [...before, ...page.rows]
      counts.value = page.counts
      isShowing.value = page.isShowing
      next = page.next
    } catch (error) {
      if (error instanceof ApiFailure) sentence.value = error.sentence
    }
  }
  const refresh = () => take(null, Math.min(200, Math.max(60, rows.value.length)), [])
  async function more() {
    if (next !== null) await take(next, 60, rows.value)
  }
  watch([number, kind], () => void refresh(), { immediate: true })
  return { rows, counts, isShowing, sentence, more, refresh }
}
