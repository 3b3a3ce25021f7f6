import { describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import { row } from '../../../tests/setup/view.ts'
import { groupVerdict } from '../../words/standing.ts'
import { useLedgerGroups } from './use-ledger-groups.ts'

const rowsOf = (...rows: readonly (readonly [kind: string, verdict?: LedgerRow['verdict']])[]) =>
  rows.map(([kind, verdict = 'agrees']) => row({ kind, verdict }))
const linesOf = (rows: LedgerRow[], picked = '') => {
  const shown = useLedgerGroups(ref(rows), ref(picked))
  return { ...shown, names: () => shown.lines.value.map((line) => (line.as === 'group' ? `[${line.rows.length}]` : line.row.kind)) }
}

describe('the ledger’s group of files', () => {
  it('stands behind the everyday kinds, closed, and opens to its kinds in the order customers name them', () => {
    const { names, toggle } = linesOf(rowsOf(['contacts'], ['books'], ['music'], ['videos'], ['apps']))
    expect(names()).toEqual(['contacts', 'apps', '[3]'])
    toggle('files')
    expect(names()).toEqual(['contacts', 'apps', '[3]', 'videos', 'music', 'books'])
    toggle('files')
    expect(names()).toEqual(['contacts', 'apps', '[3]'])
  })

  it('of one kind is no group', () => {
    expect(linesOf(rowsOf(['contacts'], ['videos'])).names()).toEqual(['contacts', 'videos'])
  })

  it('opens by itself where something in it differs, or is looked at; closed by hand it stays so', async () => {
    expect(linesOf(rowsOf(['contacts'], ['videos', 'differs'], ['music'])).names()).toEqual(['contacts', '[2]', 'videos', 'music'])
    const picked = ref('')
    const { lines, toggle } = useLedgerGroups(ref(rowsOf(['contacts'], ['videos'], ['music'])), picked)
    expect(lines.value).toHaveLength(2)
    picked.value = 'music'
    await nextTick()
    expect(lines.value).toHaveLength(4)
    toggle('files')
    expect(lines.value).toHaveLength(2)
  })

  it('says the worst of its verdicts first', () => {
    const said = (...verdicts: LedgerRow['verdict'][]) => groupVerdict(verdicts.map((verdict) => row({ verdict })))
    expect(said('agrees', 'differs', 'waiting', 'differs')).toBe('2 differ')
    expect(said('agrees', 'running', 'waiting')).toBe('Running')
    expect(said('agrees', 'waiting')).toBe('Not checked yet')
    expect(said('agrees', 'accepted')).toBe('Some accepted')
    expect(said('agrees', 'agrees-with-notes')).toBe('All agree, with notes')
    expect(said('agrees', 'agrees')).toBe('All agree')
  })
})
