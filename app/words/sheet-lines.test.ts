import { describe, expect, it } from 'vitest'
import type { SheetView, TicketView } from '#contracts/http/ticket.ts'
import { forecast, noFates, row, ticket } from '../../tests/setup/view.ts'
import { leftAndByHand, reasonSections } from './sheet-lines.ts'

const sheetOf = (change: Partial<TicketView>) => ({ ticket: ticket(change), isErased: false, signed: null }) as unknown as SheetView
const reasons: TicketView['reasons'] = [
  { kind: 'contacts', fate: 'pending', code: 'groups-left-off', items: 3 },
  { kind: 'contacts', fate: 'pending', code: 'no-room', items: 2 },
  { kind: 'contacts', fate: 'changed', code: 'groups-left-off', items: 4 },
]

describe('a sheet', () => {
  it('names why something waits, and never what it would change on its way', () => {
    const forecasts = [{ ...forecast({}), changes: [{ code: 'groups-left-off', items: 3, loss: true }] }]
    const sheet = sheetOf({ ledger: [row({ fates: { ...noFates, pending: 3, changed: 4 } })], reasons, forecasts })
    const [changed, stayed] = reasonSections(sheet)
    expect(changed!.groups.flatMap((group) => group.reasons.map(({ code }) => code))).toEqual(['groups-left-off'])
    expect(stayed!.groups.flatMap((group) => group.reasons.map(({ code }) => code))).toEqual(['no-room'])
  })

  it('says how many were left by choice, and apart from them what nobody chose to leave', () => {
    const left: TicketView['reasons'] = [{ kind: 'calendar', fate: 'notChosen', code: 'left-subscribed', items: 5 }]
    const sheet = sheetOf({ ledger: [row({ kind: 'calendar', fates: { ...noFates, notChosen: 8, carried: 1 } })], reasons: left })
    expect(leftAndByHand(sheet)).toEqual([
      'Calendar: 3 left on the old phone by choice',
      'Calendar: 5 left, a subscribed calendar comes by itself where it is subscribed again',
    ])
  })
})
