import { describe, expect, it } from 'vitest'
import { accountTable, carryQuestions } from './ticket.ts'
import { carryPanel, checkPanel, countInPanel } from './stages.ts'
import { ofSides } from './sides.ts'

describe('what is said of two phones', () => {
  it('stays as it is of two phones', () => {
    for (const text of [checkPanel.lead, countInPanel.bothPhonesAreCounted, accountTable.newPhonesOwnCount])
      expect(ofSides(text, { old: 'bench', new: 'bench' })).toBe(text)
  })
  it('names the locker that takes a copy, and the copy that is put back', () => {
    const into = (text: string) => ofSides(text, { old: 'bench', new: 'locker' })
    const back = (text: string) => ofSides(text, { old: 'locker', new: 'bench' })
    expect(into(checkPanel.lead)).toBe(
      'The locker is read afresh and compared with what was carried, item by item; the old phone is counted again.',
    )
    expect(back(checkPanel.lead)).toBe(
      'The new phone is read afresh and compared with what was carried, item by item; the copy is counted again.',
    )
    expect(into(accountTable.newPhonesOwnCount)).toBe('The locker’s own count')
    expect(into(carryPanel.goesOn)).toContain('the locker is counted afresh')
    expect(into(checkPanel.compare)).toBe('Count both sides afresh and compare')
    expect(back(carryQuestions.arePhonesRightWay)).toBe('Are both sides the right way round?')
  })
})
