import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { settleUnknownBatch, type NowRecord, type SentItem } from './settle-batch.ts'

const digest = (atoms: readonly string[]) => [...atoms].sort().join('|')
const item = (seq: number, atoms: string[], sends = 1): SentItem => ({ seq, atoms, digest: digest(atoms), sends })
const record = (nativeId: string, ...atoms: string[]): NowRecord => ({ nativeId, atoms, digest: digest(atoms) })
const before = (records: readonly NowRecord[]) => ({
  known: new Map([...group(records)].map(([d, list]) => [d, list.length])),
  knownIds: new Map(records.map((r) => [r.nativeId, { digest: r.digest, atoms: r.atoms }])),
})
function group(records: readonly NowRecord[]): Map<string, NowRecord[]> {
  const out = new Map<string, NowRecord[]>()
  for (const r of records) out.set(r.digest, [...(out.get(r.digest) ?? []), r])
  return out
}
const settle = (items: SentItem[], was: NowRecord[], now: NowRecord[], joins = true) =>
  settleUnknownBatch({ items, ...before(was), now, joins, mostSends: 3 })
const ends = (result: ReturnType<typeof settle>) => Object.fromEntries(result.items.map((i) => [i.seq, i.as]))

describe('a batch whose answer never came', () => {
  it('nothing arrived: all is sent again', () => {
    expect(ends(settle([item(1, ['a']), item(2, ['b'])], [], []))).toEqual({ 1: 'again', 2: 'again' })
  })

  it('all arrived: all is carried, by the ids the phone gave', () => {
    const result = settle([item(1, ['a']), item(2, ['b'])], [], [record('x', 'a'), record('y', 'b')])
    expect(result.items).toContainEqual({ seq: 1, as: 'carried', nativeIds: ['x'] })
    expect(ends(result)).toEqual({ 1: 'carried', 2: 'carried' })
  })

  it('of two identical items one arrived: one is carried, one sent again', () => {
    expect(ends(settle([item(1, ['a']), item(2, ['a'])], [], [record('x', 'a')]))).toEqual({ 1: 'carried', 2: 'again' })
  })

  it('an equal record that was there before is not taken for ours', () => {
    expect(ends(settle([item(1, ['a'])], [record('f', 'a')], [record('f', 'a')]))).toEqual({ 1: 'again' })
  })

  it('a new equal record beside one that was there is ours, by its own id', () => {
    const result = settle([item(1, ['a'])], [record('f', 'a')], [record('f', 'a'), record('n', 'a')])
    expect(result.items).toEqual([{ seq: 1, as: 'carried', nativeIds: ['n'] }])
  })

  it('a half record is removed, and its item sent again even after three sends', () => {
    const result = settle([item(1, ['a', 'b', 'c'], 3)], [], [record('h', 'a', 'b')])
    expect(result).toEqual({ items: [{ seq: 1, as: 'again' }], remove: ['h'] })
  })

  it('a record that is no part of anything sent is left alone', () => {
    expect(settle([item(1, ['a', 'b'])], [], [record('s', 'z')]).remove).toEqual([])
  })

  it('what came meanwhile and is much like one without a trace may be that, written otherwise: it is named', () => {
    const call = (...words: string[]) => ['call', ...words].join('\u001f')
    const at = (ms: number, it: SentItem | NowRecord) => ({ ...it, atMs: ms })
    const pairs: [SentItem, NowRecord, boolean][] = [
      [item(1, ['a', 'b', 'c']), record('n', 'a', 'b', 'x'), true],
      [item(1, ['a', 'b', 'c']), record('n', 'a', 'x', 'y'), false],
      [item(1, [call('1', '20', 'in', '61 s')]), record('n', call('1', '20', 'in', '62 s')), true],
      [item(1, [call('1', '20', 'in', '61 s')]), record('n', call('1', '90', 'in', '0 s')), false],
      [at(5_000, item(1, ['text'])) as SentItem, at(5_900, record('n', 'other')) as NowRecord, true],
      [at(5_000, item(1, ['text'])) as SentItem, at(6_000, record('n', 'other')) as NowRecord, false],
    ]
    for (const [sent, now, isAlike] of pairs) {
      expect(settle([sent], [], [now])).toEqual({ items: [{ seq: 1, as: 'again', ...(isAlike ? { otherwise: 'n' } : {}) }], remove: [] })
      expect(settle([sent], [now], [now]).items).toEqual([{ seq: 1, as: 'again' }])
    }
    expect(settle([item(1, ['a', 'b', 'c'], 3)], [], [record('n', 'a', 'b', 'x')]).items).toEqual([
      { seq: 1, as: 'refused', otherwise: 'n' },
    ])
  })

  it('content that stands in a known record that grew was joined by the phone', () => {
    const was = [record('f', 'n')]
    expect(settle([item(1, ['n', 't'])], was, [record('f', 'n', 't')]).items).toEqual([{ seq: 1, as: 'merged', nativeId: 'f' }])
    expect(ends(settle([item(1, ['n', 't'])], was, [record('f', 'n', 't')], false))).not.toEqual({ 1: 'merged' })
  })

  it('three sends without a trace are refused; two are not', () => {
    expect(ends(settle([item(1, ['a'], 2), item(2, ['b'], 3)], [], []))).toEqual({ 1: 'again', 2: 'refused' })
  })

  it('settles every item once, and never more of a content than arrived', () => {
    const atomsOf = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd'), { minLength: 1, maxLength: 3 })
    fc.assert(
      fc.property(
        fc.array(atomsOf, { minLength: 1, maxLength: 8 }),
        fc.array(atomsOf, { maxLength: 5 }),
        fc.array(fc.boolean(), { minLength: 8, maxLength: 8 }),
        (sent, there, landed) => {
          const items = sent.map((atoms, i) => item(i, atoms))
          const was = there.map((atoms, i) => record(`f${i}`, ...atoms))
          const arrived = items.filter((_, i) => landed[i]).map((it) => record(`n${it.seq}`, ...it.atoms))
          const result = settle(items, was, [...was, ...arrived])
          expect(result.items.map((i) => i.seq).sort((a, b) => a - b)).toEqual(items.map((i) => i.seq))
          expect(result.remove.every((id) => id.startsWith('n'))).toBe(true)
          for (const [d, list] of group(arrived)) {
            const carried = result.items.filter((i) => i.as === 'carried' && items[i.seq]!.digest === d)
            expect(carried).toHaveLength(list.length)
            expect(new Set(carried.flatMap((i) => (i as { nativeIds: readonly string[] }).nativeIds)).size).toBe(list.length)
          }
          expect(result.items.filter((i) => i.as === 'carried')).toHaveLength(arrived.length)
        },
      ),
      { seed: 51, numRuns: 500 },
    )
  })

  describe('of an item that becomes several records', () => {
    const split = (seq: number, pieces: string[], sends = 1): SentItem => ({
      seq,
      sends,
      atoms: ['head', ...pieces],
      digest: digest(['head', pieces[0]!]),
      parts: pieces.slice(1).map((p) => digest(['head', p])),
    })
    const piece = (id: string, p: string) => record(id, 'head', p)

    it('it arrived when each of its records did, by the id of the first', () => {
      expect(settle([split(1, ['1', '2', '3'])], [], [piece('a', '1'), piece('b', '2'), piece('c', '3')])).toEqual({
        items: [{ seq: 1, as: 'carried', nativeIds: ['a', 'b', 'c'] }],
        remove: [],
      })
    })

    it('what arrived of one that did not arrive whole is taken away before it is sent again', () => {
      expect(settle([split(1, ['1', '2', '3'])], [], [piece('b', '2'), piece('c', '3')])).toEqual({
        items: [{ seq: 1, as: 'again' }],
        remove: ['b', 'c'],
      })
    })

    it('a first record that holds only its head is half of it, and goes too', () => {
      expect(settle([split(1, ['1', '2'], 3)], [], [record('h', 'head')])).toEqual({ items: [{ seq: 1, as: 'again' }], remove: ['h'] })
    })

    it('without a trace it is refused after three sends, not before', () => {
      expect(ends(settle([split(1, ['1', '2'], 2), split(2, ['3', '4'], 3)], [], []))).toEqual({ 1: 'again', 2: 'refused' })
    })

    it('settles every item once; one is carried only where all its records stand, none of them for two, none known before', () => {
      const pieces = fc.array(fc.constantFrom('1', '2', '3'), { minLength: 1, maxLength: 3 })
      fc.assert(
        fc.property(
          fc.array(pieces, { minLength: 1, maxLength: 6 }),
          fc.array(fc.constantFrom('1', '2', '3'), { maxLength: 4 }),
          fc.array(fc.nat(3), { minLength: 6, maxLength: 6 }),
          (sent, there, landed) => {
            const items = sent.map((list, i) => split(i, list))
            const was = there.map((p, i) => piece(`f${i}`, p))
            // of each item its first so many records landed, whole or in part
            const arrived = sent.flatMap((list, i) => list.slice(0, landed[i]).map((p, k) => piece(`n${i}-${k}`, p)))
            const result = settle(items, was, [...was, ...arrived], false)
            expect(result.items.map((i) => i.seq).sort((a, b) => a - b)).toEqual(items.map((i) => i.seq))
            expect(result.remove.filter((id) => !id.startsWith('n'))).toEqual([])
            // what is carried and what is taken away uses no record twice, and no more of a content than landed
            const stands = group(arrived.filter((r) => !result.remove.includes(r.nativeId)))
            for (const [d, n] of [
              ...group(
                items
                  .filter((item) => result.items.some((i) => i.seq === item.seq && i.as === 'carried'))
                  .flatMap((item) => [item.digest, ...item.parts!].map((x) => ({ nativeId: '', atoms: [], digest: x }))),
              ),
            ].map(([key, list]) => [key, list.length] as const)) {
              expect(stands.get(d)?.length ?? 0).toBeGreaterThanOrEqual(n)
            }
          },
        ),
        { seed: 52, numRuns: 500 },
      )
    })
  })
})
