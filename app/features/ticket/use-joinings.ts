import { computed, type Ref } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { JoiningPage, JoiningRow } from '#contracts/http/ledger.ts'
import { api } from '../../composables/use-api.ts'
import { usePages } from '../../composables/use-pages.ts'

/** People on both phones. */
export function useJoinings(number: Ref<string>, kind: Ref<string>) {
  const pages = usePages<JoiningRow, JoiningPage, string>({
    of: [number, kind],
    fetch: (after, limit, signal) =>
      api(calls.joinings, { params: { number: number.value }, body: { kind: kind.value, after, limit }, signal }),
    rowsOf: ({ rows }) => rows,
    nextOf: ({ next }) => next,
  })
  return { ...pages, counts: computed(() => pages.page.value?.counts ?? null) }
}
