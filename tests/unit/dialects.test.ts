import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { contacts, createNumberReader, type Contact } from '#core/kinds/contacts/index.ts'
import { createInstantReader } from '#core/text/zone.ts'
import { findModel } from '#core/phones/models.ts'
import { dialects } from '#standins/kinds/contacts/dialects.ts'
import { people } from '#standins/kinds/contacts/people.ts'
import { recordsOf } from '#standins/phones/records.ts'
import { standinModels } from '#standins/phones/models.ts'

const tools = {
  number: createNumberReader('GB'),
  hash: (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex'),
  instant: createInstantReader('Europe/London'),
  nowMs: 0,
}

function read(bytes: Uint8Array): Contact {
  const record = contacts.read(bytes, tools)
  if (!record.ok) throw new Error(record.code)
  return record.item
}

const crowd = people({ seed: 5, count: 60, style: 'traps' }).map((p) => p.person)

describe('phones that give and take contacts in their own dialect', () => {
  // one model of each dialect stands for its kin
  const kin = ['Orrin 5', 'Tamsel M2', 'Veyra 12', 'Holt 3'].map((name) => standinModels.find(({ model }) => model === name)!)
  for (const from of kin) {
    for (const to of kin) {
      it(`${from.model} to ${to.model}: what the new phone gives back is what the forecast says, contact by contact`, () => {
        const target = findModel(to)
        for (const person of crowd) {
          const source = dialects[from.dialect]
          const item = read(source.give(source.store(person)))
          const changed = contacts.change(item, target)
          if ('cannot' in changed) {
            // a keypad phone keeps a name and numbers; who has neither can't be stored there
            expect([to.platform, item.phones.length, Object.values(item.name).join('')]).toEqual(['keypad', 0, ''])
            continue
          }
          const taker = dialects[to.dialect]
          const stored = taker.take(Buffer.from(contacts.write(changed.item, target)))
          const back = read(taker.give(stored))
          expect(contacts.atoms(back, tools)).toEqual(contacts.atoms(changed.item, tools))
        }
      })
    }
  }

  it('every dialect that keeps all gives the same facts of the same person', () => {
    for (const person of crowd) {
      if (person.unknown || person.groups || person.starred) continue
      const { holt: _, ...rich } = dialects
      const [one, ...others] = Object.values(rich).map((d) => contacts.atoms(read(d.give(d.store(person))), tools))
      for (const other of others) expect(other).toEqual(one)
    }
  })
})

describe('changes forced by a platform', () => {
  it.each(standinModels.filter(({ platform }) => platform !== 'keypad').map((model) => [model.model, model] as const))(
    'a name longer than the %s takes is foretold as cut, and is taken then',
    (_, model) => {
      const parts = {
        ...people({ seed: 5, count: 1 })[0]!.person,
        given: `${'N'.repeat(700)}💛`,
        middle: 'M'.repeat(30),
        family: 'Toolong',
      }
      const source = dialects.orrin
      const changed = contacts.change(read(source.give(source.store(parts))), findModel(model))
      if ('cannot' in changed) throw new Error(changed.cannot)
      expect(changed.changes).toContainEqual({ code: 'name-cut', loss: true })
      expect(changed.item.name).toMatchObject({ middle: 'M'.repeat(30), family: 'Toolong' })
      const taker = recordsOf(model, 'contacts')!
      const stored = taker.take(Buffer.from(contacts.write(changed.item, findModel(model))))
      expect(taker.refuses(stored)).toBeNull()
      expect(contacts.atoms(read(taker.give(stored)), tools)).toEqual(contacts.atoms(changed.item, tools))
    },
  )

  const named = (person: (typeof crowd)[number], model: string) => {
    const source = dialects.orrin
    const changed = contacts.change(read(source.give(source.store(person))), findModel(standinModels.find((m) => m.model === model)!))
    return 'cannot' in changed ? changed.cannot : changed.changes.map((c) => `${c.code}${c.loss ? ' (loss)' : ''}`)
  }
  const trap = (given: string) => crowd.find((p) => p.given === given)!

  it.each([
    ['a label no platform word exists for', 'Pager', 'Veyra 12', ['label-as-own-word']],
    ['own labels where the phone has none', 'Linked', 'Tamsel M2', []],
    ['groups and a star on iOS', 'Starred', 'Veyra 12', ['groups-dropped (loss)', 'star-dropped (loss)']],
    ['a photo larger than the phone keeps', 'Large', 'Veyra 12', ['photo-too-large (loss)']],
    ['a field no phone has a place for', 'Lamp', 'Orrin 9', ['fields-dropped (loss)']],
    ['a note longer than the phone keeps', 'Long', 'Tamsel M2', ['note-cut (loss)']],
    ['more numbers than the phone keeps', 'Many', 'Tamsel M2', ['numbers-to-note']],
  ])('%s is named', (_, given, model, expected) => {
    expect(named(trap(given), model)).toEqual(expected)
  })

  it('a contact with nothing in it can’t cross', () => {
    expect(named({}, 'Veyra 12')).toBe('nothing-to-store')
  })
})
