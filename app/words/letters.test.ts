import { describe, expect, it } from 'vitest'
import { letterNames, letterOf, type LetterCode, type LetterOf } from './letters.ts'

const of = {
  ticket: {
    number: 'T-0401',
    old: { model: 'Orrin 5' },
    new: { model: 'Veyra 12' },
    promisedAt: '',
    tied: { all: 2, open: 2 },
    mayHandOver: true,
    isSignedOpen: false,
  },
  shop: { name: 'Saltmere Phones', address: '4 Quay Street' },
  promised: '16:30',
  need: 'Unlock the phone',
} as unknown as LetterOf

describe('texts for the customer', () => {
  it.each(Object.keys(letterNames) as LetterCode[])('%s: names the shop, the ticket and the phone', (code) => {
    const text = letterOf(code, of)
    for (const word of ['Saltmere Phones', 'T-0401', 'Veyra 12']) expect(text).toContain(word)
    expect(text).not.toMatch(/undefined|null/)
  })
  it('ready says that the counts agree only when they do, and what is tied to the old phone', () => {
    expect(letterOf('ready', of)).toContain('the counts agree')
    expect(letterOf('ready', of)).toContain('2 apps have to be moved by you first')
    expect(letterOf('ready', { ...of, ticket: { ...of.ticket, mayHandOver: false } })).not.toContain('agree')
  })
  it('late names the promise; needed names what is needed and asks for no passcode', () => {
    expect(letterOf('late', of)).toContain('for 16:30')
    expect(letterOf('needed', of)).toContain('unlock the phone')
    expect(letterOf('needed', of)).toContain('don’t send us passcodes')
  })
})
