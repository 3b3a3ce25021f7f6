import { describe, expect, it } from 'vitest'
import { picture } from '../../demo/draw.ts'
import { people } from './people.ts'
import { standinModel, standinModels } from '../../phones/models.ts'
import type { Person } from './dialect.ts'
import { dialects } from './dialects.ts'

const crowd = people({ seed: 9, count: 40, style: 'traps' }).map((p) => p.person)
const give = (dialect: keyof typeof dialects, person: Person) => dialects[dialect].give(dialects[dialect].store(person)).toString('latin1')
const zoe: Person = { given: 'Zoë', family: 'Ångström', note: 'ein langer Satz mit ö und ü, '.repeat(8) }

describe('people of the demo', () => {
  it('are the same for the same seed, and others for another', () => {
    expect(people({ seed: 1, count: 30, style: 'traps' })).toEqual(people({ seed: 1, count: 30, style: 'traps' }))
    expect(people({ seed: 1, count: 30 })).not.toEqual(people({ seed: 2, count: 30 }))
  })

  it('have numbers of the ranges set aside for fiction only', () => {
    for (const { v } of crowd.flatMap((p) => p.phones ?? [])) {
      expect(v.replace(/\D/g, '').replace(/^44/, '0')).toMatch(/^(07700900\d{3}|0770090\d{4}|02079460\d{3,4})$/)
    }
    for (const { v } of crowd.flatMap((p) => p.emails ?? [])) expect(v.toLowerCase()).toMatch(/@example\.org$/)
  })

  it('have pictures that are JPEG, and differ by their number', () => {
    const [one, two] = [picture(1), picture(2)].map((text) => Buffer.from(text, 'base64'))
    expect([one![0], one![1]]).toEqual([0xff, 0xd8])
    expect(one!.equals(two!)).toBe(false)
    expect(Buffer.from(picture(3, 300_000), 'base64').length).toBeGreaterThan(300_000)
  })
})

describe('the Android dialect (vCard 2.1)', () => {
  it.each(['orrin', 'tamsel'] as const)('%s gives seven-bit lines of 76 at most', (dialect) => {
    for (const person of crowd) {
      const card = give(dialect, person)
      expect(card).toMatch(/^BEGIN:VCARD\r\nVERSION:2\.1\r\n[\s\S]*END:VCARD\r\n$/)
      expect(card).toMatch(/^[\x00-\x7f]*$/)
      for (const line of card.split('\r\n')) if (/=$/.test(line)) expect(line.length).toBeLessThanOrEqual(76)
    }
  })

  it('differs by maker: charset, and how an own label is written', () => {
    expect(give('orrin', zoe)).toContain('CHARSET=UTF-8')
    expect(give('tamsel', zoe)).toContain('CHARSET=ISO-8859-1')
    expect(give('tamsel', { given: '山' })).toContain('CHARSET=UTF-8')
    const boat: Person = { given: 'a', phones: [{ v: '1', t: 'Boat shed', own: true }] }
    expect(give('orrin', boat)).toContain('X-CUSTOM(')
    expect(give('tamsel', boat)).toContain('item1.X-ABLabel:Boat shed')
  })
})

describe('the iOS dialect (vCard 3.0)', () => {
  it('gives lines of 75 octets at most, cut between characters', () => {
    for (const person of [...crowd, zoe]) {
      const card = Buffer.from(give('veyra', person), 'latin1')
      for (const line of card.toString('latin1').split('\r\n')) expect(line.length).toBeLessThanOrEqual(75)
      for (const line of card.toString('utf8').split('\r\n')) expect(line).not.toContain('\ufffd')
    }
  })

  it('gives a birthday without a year by a parameter, and labels in groups', () => {
    expect(give('veyra', { given: 'a', birthday: '--02-29' })).toContain('BDAY;X-OMIT-YEAR=1604:1604-02-29')
    expect(give('veyra', { given: 'a', phones: [{ v: '1', t: 'Winter', own: true }] })).toMatch(
      /item1\.TEL[^\r]*:1\r\nitem1\.X-ABLabel:Winter/,
    )
  })
})

describe('taking', () => {
  it.each(['orrin', 'tamsel', 'veyra'] as const)('%s keeps what it gives, fact by fact', (dialect) => {
    const made = dialects[dialect]
    for (const person of crowd) {
      if (person.unknown) continue
      const stored = made.store(person)
      expect([...made.facts(made.take(made.give(stored)))].sort().length).toBe(made.facts(stored).length)
    }
  })

  it.each<[keyof typeof dialects, string]>([
    ['orrin', 'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:a\r\nEND:VCARD\r\n'],
    ['orrin', 'BEGIN:VCARD\r\nVERSION:2.1\r\nFN:a\r\n'],
    ['veyra', 'BEGIN:VCARD\r\nVERSION:2.1\r\nFN:a\r\nEND:VCARD\r\n'],
    ['veyra', 'hello'],
  ])('%s refuses %j', (dialect, text) => {
    expect(() => dialects[dialect].take(Buffer.from(text))).toThrow()
  })

  it('joining keeps every fact of both', () => {
    for (const made of Object.values(dialects)) {
      const [one, other] = [
        made.store({ given: 'a', phones: [{ v: '1', t: 'cell' }] }),
        made.store({ given: 'a', phones: [{ v: '2', t: 'home' }] }),
      ]
      const joined = new Set(made.facts(made.join(one, other)))
      for (const fact of [...made.facts(one), ...made.facts(other)]) expect(joined.has(fact)).toBe(true)
    }
  })
})

describe('models', () => {
  it('each have a dialect and limits of their own', () => {
    for (const model of standinModels) expect(dialects[model.dialect]).toBeTruthy()
    expect(standinModel('Tamsel M2')!.limits.phones).toBe(10)
    expect(standinModel('Moonphone')).toBeUndefined()
  })
})
