import { describe, expect, it } from 'vitest'
import { unmetContacts } from '../setup/contents.ts'

/** A contact as each family of practice phones tells it. */
const android = (...numbers: string[]) => ({ facts: ['["name",["Shore"],""]', ...numbers.map((n) => `["phones",["${n}"],"cell"]`)] })
const ios = (...numbers: string[]) => ({
  facts: ['first=Shore', ...numbers.map((value) => `phones=${JSON.stringify({ value, label: 'cell' })}`)],
})
const keypad = (...numbers: string[]) => ({ facts: ['name=Shore', ...numbers.map((n) => `number=${n}`)] })

describe('what is held against an agreement of contacts', () => {
  it('nothing, while each has a record of its own with all of its numbers, in whatever family', () => {
    expect(
      unmetContacts(
        [android('+447700900101', '02079460001'), keypad('07700900102')],
        [ios('+44 7700 900102'), ios('020 7946 0001', '+447700900101')],
      ),
    ).toBe(0)
    expect(unmetContacts([android()], [])).toBe(0)
  })
  it('one that is gone, one that lost a number, one of two equal ones', () => {
    expect(unmetContacts([android('+447700900101')], [ios('+447700900102')])).toBe(1)
    expect(unmetContacts([android('+447700900101', '+447700900102')], [ios('+447700900101')])).toBe(1)
    expect(unmetContacts([android('+447700900101'), android('+447700900101')], [ios('+447700900101')])).toBe(1)
  })
})
