import { describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { usePages } from './use-pages.ts'

interface Page {
  rows: string[]
  next: number | null
  isShowing: boolean
}
const settle = () => new Promise((resolve) => setTimeout(resolve, 0))

/** Answers in the order the test gives them, whatever was asked first. */
function listOf() {
  const of = ref('a')
  const asked: { of: string; after: number | null; limit: number; answer: (rows: string[], next?: number | null) => Promise<void> }[] = []
  const pages = usePages<string, Page, number>({
    of: [of],
    fetch: (after, limit) =>
      new Promise((resolve) =>
        asked.push({
          of: of.value,
          after,
          limit,
          answer: async (rows, next = null) => {
            resolve({ rows, next, isShowing: false })
            await settle()
          },
        }),
      ),
    rowsOf: ({ rows }) => rows,
    nextOf: ({ next }) => next,
  })
  return { of, asked, pages }
}

describe('a list a page at a time', () => {
  it('grows by its pages, one request at a time', async () => {
    const { asked, pages } = listOf()
    await asked[0]!.answer(['1', '2'], 2)
    void pages.more()
    void pages.more()
    expect(asked.map(({ after }) => after)).toEqual([null, 2])
    await asked[1]!.answer(['3'])
    expect(pages.rows.value).toEqual(['1', '2', '3'])
    await pages.more()
    expect(asked).toHaveLength(2)
  })

  it('another list does not wait, and a late answer of the former changes nothing', async () => {
    const { of, asked, pages } = listOf()
    of.value = 'b'
    await nextTick()
    await asked[1]!.answer(['b1'])
    await asked[0]!.answer(['a1'])
    expect(pages.rows.value).toEqual(['b1'])
  })

  it('what changed while a page was on its way is looked at after it', async () => {
    const { asked, pages } = listOf()
    await asked[0]!.answer(['1', '2'], 2)
    void pages.more()
    void pages.refresh()
    void pages.refresh()
    expect(asked).toHaveLength(2)
    await asked[1]!.answer(['3'])
    expect(asked).toHaveLength(3)
    await asked[2]!.answer(['1', '3'])
    expect(pages.rows.value).toEqual(['1', '3'])
  })

  it('of a list longer than is read anew, rows stay where they are looked at, and its sums are new', async () => {
    const { asked, pages } = listOf()
    await asked[0]!.answer(Array.from({ length: 201 }, (_, i) => String(i)))
    void pages.refresh()
    expect(asked[1]!.limit).toBe(200)
    await asked[1]!.answer(['new'])
    expect(pages.rows.value).toHaveLength(201)
    expect(pages.page.value!.rows).toEqual(['new'])
  })
})
