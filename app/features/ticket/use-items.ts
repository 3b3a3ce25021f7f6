import type { z } from 'zod'
import { calls } from '#contracts/http/calls.ts'
import type { routes } from '#contracts/http/routes.ts'
import { ref, type Ref } from 'vue'
import type { EntryFilter, EntryRow } from '#contracts/http/ledger.ts'
import { api } from '../../composables/use-api.ts'
import { usePages } from '../../composables/use-pages.ts'

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

/** The items behind a count. The page comes first; a count that costs more follows it, and stands until something else is asked for. */
export function useItems(number: Ref<string>, wish: Ref<ItemsWish>) {
  const total = ref<number | null>(null)
  const pages = usePages<EntryRow, z.output<typeof routes.entries.reply>, string>({
    of: [number, wish],
    async fetch(after, limit, signal) {
      const page = await api(calls.entries, { params: { number: number.value }, body: { ...wish.value, after, limit }, signal })
      if (page.total !== null && !signal.aborted) total.value = page.total
      return page
    },
    rowsOf: ({ rows }) => rows,
    nextOf: ({ next }) => next,
    async onFirst(page, signal) {
      total.value = page.total
      if (page.total !== null) return
      const counted = await api(calls.countEntries, { params: { number: number.value }, body: wish.value, signal }).catch(() => undefined)
      if (counted && !signal.aborted) total.value = counted.total
    },
  })
  return { ...pages, total }
}
