import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bookEvents, fates, firstFates, step, steps } from './index.ts'

describe('the table of fates', () => {
  it('knows every fate, and leads to fates only', () => {
    expect(Object.keys(steps).sort()).toEqual([...fates].sort())
    for (const of of Object.values(steps)) for (const to of Object.values(of)) expect(fates).toContain(to)
  })

  it('every event can happen to some item, and every fate can be reached from the first ones', () => {
    for (const event of bookEvents) expect([event, fates.some((fate) => step(fate, event) !== undefined)]).toEqual([event, true])
    const reached = new Set(firstFates)
    for (let before = -1; before !== reached.size;) {
      before = reached.size
      for (const fate of [...reached]) for (const to of Object.values(steps[fate])) reached.add(to)
    }
    expect([...reached].sort()).toEqual([...fates].sort())
  })

  it('no item is ever past hope: an edit on the old phone lets any of them wait again', () => {
    for (const fate of fates) expect([fate, step(fate, 'edited')]).toEqual([fate, 'pending'])
  })

  it('whatever happens, what waits can be closed at the signature', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...bookEvents), { maxLength: 30 }), (events) => {
        let fate = firstFates[0]!
        for (const event of events) fate = step(fate, event) ?? fate
        expect(fate === 'pending' ? step(fate, 'closed') : 'notChosen').toBe('notChosen')
      }),
    )
  })
})
