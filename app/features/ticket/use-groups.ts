import { computed, type Ref } from 'vue'
import type { z } from 'zod'
import { calls } from '#contracts/http/calls.ts'
import type { routes } from '#contracts/http/routes.ts'
import type { GroupRow } from '#contracts/http/ledger.ts'
import { api } from '../../composables/use-api.ts'
import { usePages } from '../../composables/use-pages.ts'
import type { GroupedBy, Side } from './opened.ts'

/** Slices of a kind on one side. */
export function useGroups(number: Ref<string>, wish: Ref<{ kind: string; side: Side; by: GroupedBy; text: string }>) {
  const pages = usePages<GroupRow, z.output<typeof routes.groups.reply>, number>({
    of: [number, wish],
    fetch: (after, limit, signal) =>
      api(calls.groups, { params: { number: number.value }, body: { ...wish.value, after: after ?? 0, limit }, signal }),
    rowsOf: ({ rows }) => rows,
    nextOf: ({ total }, n) => (n < total ? n : null),
  })
  return { ...pages, total: computed(() => pages.page.value?.total ?? null) }
}
