import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  closes,
  fates,
  linesOfSums,
  noFates,
  noOrigins,
  pair,
  verdictOf,
  type Fate,
  type LedgerFigures,
  type PairItem,
  type PairRecord,
} from './index.ts'

const digest = (atoms: readonly string[]) => [...atoms].sort().join('|')

interface World {
  first: { id: string; atoms: string[] }[]
  old: { atoms: string[]; fate: Fate; ids: string[] }[]
  last: { id: string; atoms: string[] }[]
}

/** The whole ledger of a world, as the product makes it. */
function ledgerOf(world: World, joins = true): LedgerFigures & { parts: PairResult } {
  const record = (r: { id: string; atoms: string[] }, seq: number): PairRecord => ({
    seq,
    nativeId: r.id,
    digest: digest(r.atoms),
    atoms: r.atoms,
  })
  const open = ['carried', 'changed', 'merged', 'alreadyThere']
  const items: PairItem[] = world.old.flatMap((item, seq) =>
    open.includes(item.fate)
      ? [{ seq, fate: item.fate as PairItem['fate'], digest: digest(item.atoms), atoms: item.atoms, nativeIds: item.ids }]
      : [],
  )
  const result = pair({ first: world.first.map(record), last: world.last.map(record), items, joins })
  const counted = noFates()
  world.old.forEach((item, seq) => counted[result.fates.get(seq) ?? item.fate]++)
  const now = noOrigins()
  for (const origin of result.origins.values()) now[origin]++
  for (const departure of result.departures.values()) now[departure]++
  return {
    old: { read: world.old.length, late: 0, bytes: 0, own: world.old.length, derived: 0 },
    fates: counted,
    new: { ...now, first: world.first.length, last: world.last.length, own: world.last.length, parts: 0, derived: 0 },
    changedWithLoss: 0,
    twins: 0,
    isRunning: false,
    isChecked: true,
    isRecounted: true,
    acceptedBy: null,
    parts: result,
  }
}
type PairResult = ReturnType<typeof pair>

function expectClosed(world: World, ledger: ReturnType<typeof ledgerOf>) {
  expect(linesOfSums(ledger).filter(({ left, right }) => left !== right)).toEqual([])
  expect(ledger.parts.origins.size).toBe(world.last.length)
  const departed = ledger.parts.departures.size
  expect(world.first.length - departed).toBe(ledger.new.kept + ledger.new.addedTo + ledger.new.altered)
  for (const fate of ledger.parts.fates.values()) expect(fates).toContain(fate)
}

const atom = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h')
const content = fc.uniqueArray(atom, { minLength: 1, maxLength: 3 }).map((atoms) => atoms.sort())

/** A transfer that went right: what is on the new phone is the first count and one record for each carried item. */
const rightWorld: fc.Arbitrary<World> = fc
  .record({
    first: fc.array(content, { maxLength: 6 }),
    old: fc.array(fc.record({ atoms: content, choice: fc.constantFrom('carry', 'notChosen', 'cannotCross', 'refused', 'unreadable') }), {
      maxLength: 10,
    }),
    renumber: fc.boolean(),
  })
  .map(({ first, old, renumber }) => {
    const firstRecords = first.map((atoms, i) => ({ id: `f${i}`, atoms }))
    const free = new Map<string, number>()
    for (const record of firstRecords) free.set(digest(record.atoms), (free.get(digest(record.atoms)) ?? 0) + 1)
    const last = firstRecords.map((record) => ({ ...record }))
    const items = old.map(({ atoms, choice }, i) => {
      if (choice !== 'carry') return { atoms, fate: choice as Fate, ids: [] }
      const there = free.get(digest(atoms)) ?? 0
      if (there > 0) {
        free.set(digest(atoms), there - 1)
        return { atoms, fate: 'alreadyThere' as Fate, ids: [] }
      }
      last.push({ id: `n${i}`, atoms })
      return { atoms, fate: 'carried' as Fate, ids: [`n${i}`] }
    })
    return { first: firstRecords, old: items, last: renumber ? last.map((r, i) => ({ ...r, id: `r${i}` })) : last }
  })

type Injury = { kind: 'lose' | 'double' | 'alter'; at: number; atom: string }
const injuries = fc.array(fc.record({ kind: fc.constantFrom('lose', 'double', 'alter'), at: fc.nat(50), atom }), {
  minLength: 1,
  maxLength: 4,
})

function injure(world: World, list: readonly Injury[]): World {
  const last = world.last.map((r) => ({ ...r }))
  for (const { kind, at, atom: extra } of list) {
    if (last.length === 0) break
    const i = at % last.length
    if (kind === 'lose') last.splice(i, 1)
    if (kind === 'double') last.push({ id: `x${last.length}-${at}`, atoms: last[i]!.atoms })
    if (kind === 'alter') last[i] = { ...last[i]!, atoms: [...last[i]!.atoms.filter((a) => a !== extra), `!${extra}`].sort() }
  }
  return { ...world, last }
}

/** Told by the contents alone, without pairing: is something of ours missing, or there too often? */
function isHurt(right: World, hurt: World): boolean {
  const balance = new Map<string, number>()
  for (const r of right.last) balance.set(digest(r.atoms), (balance.get(digest(r.atoms)) ?? 0) + 1)
  const ours = new Set(balance.keys())
  for (const r of hurt.last) balance.set(digest(r.atoms), (balance.get(digest(r.atoms)) ?? 0) - 1)
  return [...balance].some(([d, n]) => n > 0 || (n < 0 && ours.has(d)))
}

describe('an item that was found before and is not as it was', () => {
  const of = (now: Partial<PairRecord>) =>
    pair({
      first: [],
      last: [{ seq: 0, nativeId: 'n', digest: 'other', atoms: ['a'], ...now }],
      items: [{ seq: 0, fate: 'carried', digest: 'a|b', atoms: ['a', 'b'], nativeIds: ['n'], wasFound: true }],
      joins: false,
    }).fates.get(0)

  it('is its owner’s doing where it reads otherwise, and lost where nobody can read it', () => {
    expect(of({})).toBe('editedThere')
    expect(of({ isUnreadable: true })).toBe('lost')
  })
})

describe('the ledger', () => {
  it('agrees when all went right, also when the phone numbers its records anew', () => {
    fc.assert(
      fc.property(rightWorld, fc.boolean(), (world, joins) => {
        const ledger = ledgerOf(world, joins)
        expectClosed(world, ledger)
        const noted = world.old.some((o) => ['cannotCross', 'refused', 'unreadable'].includes(o.fate))
        expect(verdictOf(ledger)).toBe(noted ? 'agrees-with-notes' : 'agrees')
      }),
      { numRuns: 500, seed: 21 },
    )
  })

  it('never agrees after any loss, double or alteration, alone or in any combination (kinds that are not joined)', () => {
    fc.assert(
      fc.property(rightWorld, injuries, (world, list) => {
        const hurt = injure(world, list as Injury[])
        fc.pre(isHurt(world, hurt))
        const ledger = ledgerOf(hurt, false)
        expectClosed(hurt, ledger)
        const verdict = verdictOf(ledger)
        expect(verdict).not.toBe('agrees')
        if (verdict === 'agrees-with-notes') expectOnlyAltered(ledger)
      }),
      { numRuns: 3000, seed: 22 },
    )
  })

  it('never agrees when a content that was there or was carried stands nowhere whole (kinds that are joined)', () => {
    fc.assert(
      fc.property(rightWorld, injuries, (world, list) => {
        const hurt = injure(world, list as Injury[])
        const stands = (atoms: readonly string[]) => hurt.last.some((r) => atoms.every((a) => r.atoms.includes(a)))
        const wanted = [...world.old.filter((o) => o.fate === 'carried' || o.fate === 'alreadyThere'), ...world.first]
        fc.pre(wanted.some((w) => !stands(w.atoms)))
        const ledger = ledgerOf(hurt, true)
        expectClosed(hurt, ledger)
        expect(verdictOf(ledger)).not.toBe('agrees')
        const lostItem = world.old.some((o) => (o.fate === 'carried' || o.fate === 'alreadyThere') && !stands(o.atoms))
        if (lostItem) expect(['differs', 'waiting']).toContain(verdictOf(ledger))
      }),
      { numRuns: 3000, seed: 23 },
    )
  })

  it('takes a stray record for what it is: a double of what is there, or one that came otherwise', () => {
    fc.assert(
      fc.property(rightWorld, content, (world, atoms) => {
        const strayed = { ...world, last: [...world.last, { id: 'stray', atoms: [...atoms, 'new'].sort() }] }
        const ledger = ledgerOf(strayed)
        expectClosed(strayed, ledger)
        expect(ledger.new.cameOtherwise).toBe(1)
        expect(ledger.new.double).toBe(0)
      }),
      { numRuns: 300, seed: 24 },
    )
  })

  const record = (id: string, ...atoms: string[]) => ({ id, atoms })
  const item = (fate: Fate, ids: string[], ...atoms: string[]) => ({ fate, ids, atoms })

  it.each<[string, World, Partial<Record<string, number>>]>([
    [
      'a carried item the phone joined into one of the first count is merged, and that one is addedTo',
      { first: [record('1', 'n', 't1')], old: [item('carried', ['2'], 'n', 't2')], last: [record('1', 'n', 't1', 't2')] },
      { merged: 1, addedTo: 1 },
    ],
    [
      'a record that arrived and then took in another stays arrived',
      { first: [], old: [item('carried', ['1'], 'n', 't1'), item('carried', ['2'], 'n', 't2')], last: [record('1', 'n', 't1', 't2')] },
      { carried: 1, merged: 1, arrived: 1 },
    ],
    [
      'a fact nobody brought makes a record altered, never added to',
      { first: [record('1', 'n')], old: [], last: [record('1', 'n', 'z')] },
      { altered: 1 },
    ],
    [
      'a carried record that never was seen as it was written is lost, and left behind',
      { first: [], old: [item('carried', ['1'], 'n')], last: [record('1', 'n', 'z')] },
      { merged: 0, lost: 1, leftBehind: 1, cameOtherwise: 0 },
    ],
    [
      'a record of the first count whose content stands whole in another is absorbed',
      { first: [record('1', 'n'), record('2', 'n', 't')], old: [], last: [record('2', 'n', 't')] },
      { absorbed: 1, kept: 1 },
    ],
    [
      'a record of the first count that is nowhere is missing',
      { first: [record('1', 'n'), record('2', 'm')], old: [], last: [record('2', 'm')] },
      { missing: 1, kept: 1 },
    ],
    [
      'an item that was already there waits again when its record is gone',
      { first: [record('1', 'n')], old: [item('alreadyThere', [], 'n')], last: [] },
      { pending: 1, missing: 1 },
    ],
    [
      'two equal records where one was brought: one is a double',
      { first: [], old: [item('carried', ['1'], 'n')], last: [record('1', 'n'), record('9', 'n')] },
      { carried: 1, arrived: 1, double: 1 },
    ],
  ])('%s', (_, world, expected) => {
    const ledger = ledgerOf(world)
    expectClosed(world, ledger)
    const figures: Record<string, number | null> = { ...ledger.fates, ...ledger.new }
    for (const [name, n] of Object.entries(expected)) expect([name, figures[name]]).toEqual([name, n])
  })

  it('never nets short against over', () => {
    const world: World = {
      first: [],
      old: [item('carried', ['1'], 'a'), item('carried', ['2'], 'b')],
      last: [record('1', 'a'), record('9', 'a')],
    }
    const ledger = ledgerOf(world)
    expect([ledger.fates.lost, ledger.new.double]).toEqual([1, 1])
    expect(verdictOf(ledger)).toBe('differs')
    expect(verdictOf({ ...ledger, acceptedBy: 'somebody' })).toBe('accepted')
  })

  it('differs when the phone’s own count is not met, though every line of ours closes', () => {
    const ledger = ledgerOf({ first: [], old: [item('carried', ['1'], 'a')], last: [record('1', 'a')] })
    const short = { ...ledger, new: { ...ledger.new, own: 2 } }
    expect(closes(linesOfSums(short))).toBe(false)
    expect(verdictOf(short)).toBe('differs')
  })

  it.each([
    ['not checked', { isChecked: false }, 'waiting'],
    ['not recounted', { isRecounted: false }, 'waiting'],
    ['running', { isRunning: true }, 'running'],
  ])('does not agree while %s', (_, change, verdict) => {
    expect(verdictOf({ ...ledgerOf({ first: [], old: [], last: [] }), ...change })).toBe(verdict)
  })
})

/** An altered record of the first count is a note, and only it; nothing of the old phone's may be concerned. */
function expectOnlyAltered(ledger: ReturnType<typeof ledgerOf>) {
  const notes = ledger.new.altered + ledger.fates.cannotCross + ledger.fates.refused + ledger.fates.unreadable + ledger.fates.gone
  expect(notes).toBeGreaterThan(0)
  expect(ledger.fates.lost + ledger.new.missing + ledger.new.double + ledger.fates.pending).toBe(0)
}

describe('items of several records', () => {
  const piece = fc.constantFrom('1', '2', '3', '4')
  const rec = (id: string, p: string, seq: number): PairRecord => ({ seq, nativeId: id, digest: p, atoms: [p] })

  it('is found with all its records or lost; its further records are parts of it and of nothing else', () => {
    let lost = 0
    let found = 0
    fc.assert(
      fc.property(
        fc.array(fc.array(piece, { minLength: 1, maxLength: 3 }), { maxLength: 6 }),
        fc.array(piece, { maxLength: 4 }),
        fc.array(fc.boolean(), { minLength: 24, maxLength: 24 }),
        fc.array(piece, { maxLength: 2 }),
        (items, first, kept, strays) => {
          const there = first.map((p, i) => rec(`f${i}`, p, i))
          const written = items.flatMap((list, i) => list.map((p, k) => [`n${i}-${k}`, p] as const))
          const last = [...first.map((p, i) => [`f${i}`, p] as const), ...written, ...strays.map((p, i) => [`s${i}`, p] as const)]
            .filter((_, i) => kept[i] ?? true)
            .map(([id, p], seq) => rec(id, p, seq))
          const result = pair({
            first: there,
            last,
            joins: false,
            items: items.map((list, seq) => ({
              seq,
              fate: 'carried',
              digest: list[0]!,
              atoms: list,
              nativeIds: [`n${seq}-0`],
              parts: list.slice(1),
            })),
          })
          expect(result.origins.size).toBe(last.length)
          for (const [seq, list] of items.entries()) {
            const mine = [...result.partOf].filter(([, item]) => item === seq).map(([record]) => last[record]!.digest)
            if (result.fates.get(seq) === 'lost') {
              lost++
              expect(mine).toEqual([])
              continue
            }
            found++
            expect([last[result.foundIn.get(seq)!]!.digest, ...mine].sort()).toEqual([...list].sort())
          }
          // what arrived is exactly what the found items are made of
          const arrived = [...result.origins.values()].filter((origin) => origin === 'arrived').length
          expect(arrived).toBe(items.reduce((sum, list, seq) => sum + (result.fates.get(seq) === 'carried' ? list.length : 0), 0))
        },
      ),
      { seed: 53, numRuns: 600 },
    )
    expect(Math.min(lost, found)).toBeGreaterThan(100)
  })
})
