import { describe, expect, it } from 'vitest'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import { worstFirst } from './worst-first.ts'

const row = (kind: string, lost: number, now: Partial<Record<'missing' | 'leftBehind' | 'double', number>> = {}) =>
  ({ kind, fates: { lost }, new: { missing: 0, leftBehind: 0, double: 0, ...now } }) as unknown as LedgerRow

describe('what Check off shows at once', () => {
  it('is every kind’s differences before every note, and of each the largest before', () => {
    const lines = worstFirst(
      [row('contacts', 2), row('messages', 17, { double: 1 }), row('photos', 0)],
      [
        { kind: 'contacts', fate: 'changed', code: 'groups-dropped', items: 205 },
        { kind: 'contacts', fate: 'lost', code: 'lost', items: 2 },
        { kind: 'photos', fate: 'refused', code: 'not-understood', items: 3 },
        { kind: 'messages', fate: 'cannotCross', code: 'scheduled', items: 9 },
        { kind: 'messages', fate: 'notChosen', code: 'recently-deleted', items: 40 },
      ],
    )
    expect(lines.map(({ kind, opens, n }) => `${kind} ${opens} ${n}`)).toEqual([
      'messages lost 17',
      'contacts lost 2',
      'messages double 1',
      'messages cannotCross 9',
      'photos refused 3',
      'contacts changed 205',
    ])
  })
})
