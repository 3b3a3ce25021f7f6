import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { utf8Bytes } from '../../text/bytes.ts'
import { createInstantReader } from '../../text/zone.ts'
import { findModel, phoneModels } from '../../phones/models.ts'
import { contactAtoms, contactMatchKeys, createNumberReader } from './canonical.ts'
import { changeContact } from './change.ts'
import { contactsOn } from './face.ts'
import { contacts } from './index.ts'
import { contactTitle, emptyContact, ownFormattedName, type Contact } from './model.ts'

const tools = {
  number: createNumberReader('GB'),
  hash: (bytes: Uint8Array) => `#${bytes.length}`,
  instant: createInstantReader('Europe/London'),
  nowMs: 0,
}
const read = (...lines: string[]) => {
  const record = contacts.read(utf8Bytes(['BEGIN:VCARD', ...lines, 'END:VCARD', ''].join('\r\n')), tools)
  if (!record.ok) throw new Error(record.code)
  return record.item
}
const atoms = (contact: Contact) => contactAtoms(contact, tools).map((atom) => atom.split('\u001f').join('|'))

describe('the meaning of a card', () => {
  it.each<[string, string[], Partial<Contact>]>([
    [
      'a name in five parts (section 6.2.2)',
      ['N:Harrow;Ines;M.;Dr;Jr'],
      { name: { family: 'Harrow', given: 'Ines', middle: 'M.', prefix: 'Dr', suffix: 'Jr' } },
    ],
    [
      'escaped separators',
      ['VERSION:3.0', 'N:Har\\;row;In\\,es;;;'],
      { name: { family: 'Har;row', given: 'In,es', middle: '', prefix: '', suffix: '' } },
    ],
    ['a number with types in any case', ['TEL;type=WORK;TYPE=fax:1'], { phones: [{ value: '1', label: { types: ['fax', 'work'] } }] }],
    ['types that carry no meaning are left out', ['TEL;TYPE=VOICE,PREF,CELL:1'], { phones: [{ value: '1', label: { types: ['cell'] } }] }],
    [
      'a tel: address (section 6.4.1)',
      ['VERSION:4.0', 'TEL;VALUE=uri:tel:+44770'],
      { phones: [{ value: '+44770', label: { types: [] } }] },
    ],
    [
      'an own label in the group',
      ['item1.TEL:1', 'item1.X-ABLabel:Boat'],
      { phones: [{ value: '1', label: { types: [], custom: 'Boat' } }] },
    ],
    [
      'a platform’s word in the group',
      ['item1.TEL:1', 'item1.X-ABLabel:_$!<Home>!$_'],
      { phones: [{ value: '1', label: { types: ['home'] } }] },
    ],
    [
      'an own label in brackets',
      ['TEL;X-CUSTOM(CHARSET=UTF-8,ENCODING=QUOTED-PRINTABLE,=42=C3=B6):1'],
      { phones: [{ value: '1', label: { types: [], custom: 'Bö' } }] },
    ],
    ['an own label as a bare word', ['TEL;X-Winter:1'], { phones: [{ value: '1', label: { types: [], custom: 'Winter' } }] }],
    ['a birthday', ['BDAY:1961-04-05'], { birthday: '1961-04-05' }],
    ['a birthday in basic form with a time', ['BDAY:19610405T000000Z'], { birthday: '1961-04-05' }],
    ['a birthday without a year (section 4.3.1)', ['BDAY:--0405'], { birthday: '--04-05' }],
    ['a birthday whose year is named as none', ['BDAY;X-SOME-OMIT-YEAR=1604:1604-04-05'], { birthday: '--04-05' }],
    ['an unreadable birthday is kept as a field', ['BDAY:spring'], { birthday: '', extra: [{ name: 'BDAY', value: 'spring' }] }],
    ['an impossible month is no date', ['BDAY:1961-13-05'], { birthday: '', extra: [{ name: 'BDAY', value: '1961-13-05' }] }],
    ['company and departments', ['ORG:Ferries;Deck;Night'], { company: 'Ferries', department: 'Deck, Night' }],
    ['several notes become one', ['NOTE:a', 'NOTE:b'], { note: 'a\nb' }],
    ['groups', ['VERSION:3.0', 'CATEGORIES:Family,Choir\\, alto'], { groups: ['Family', 'Choir, alto'] }],
    ['a chat handle of the older kind', ['X-JABBER:a@example.org'], { ims: [{ value: 'xmpp:a@example.org', label: { types: [] } }] }],
    ['an unknown property is kept verbatim', ['X-LIGHT:Fl(2) 10s'], { extra: [{ name: 'X-LIGHT', value: 'Fl(2) 10s' }] }],
    ['a photo by address', ['PHOTO;VALUE=uri:https://example.org/p'], { photo: { address: 'https://example.org/p' } }],
    ['an empty address is none', ['ADR;HOME:;;;;;;'], { addresses: [] }],
  ])('%s', (_, lines, expected) => {
    expect(read(...lines)).toMatchObject(expected)
  })

  it.each([
    ['no-end', 'BEGIN:VCARD\r\nFN:a\r\n'],
    ['damaged-base64', 'BEGIN:VCARD\r\nFN:a\r\nPHOTO;ENCODING=b:!\r\nEND:VCARD\r\n'],
    ['charset-unknown', 'BEGIN:VCARD\r\nFN;CHARSET=X-NO;ENCODING=QUOTED-PRINTABLE:=FF\r\nEND:VCARD\r\n'],
    ['line-without-colon', 'BEGIN:VCARD\r\nFN:a\r\nhello\r\nEND:VCARD\r\n'],
    ['more-than-one-card', 'BEGIN:VCARD\r\nFN:a\r\nEND:VCARD\r\nBEGIN:VCARD\r\nFN:b\r\nEND:VCARD\r\n'],
    ['empty-card', ''],
  ])('a record with %s is one unreadable item with its reason', (code, text) => {
    expect(contacts.read(utf8Bytes(text), tools)).toEqual({ ok: false, code })
  })
})

describe('canonical form', () => {
  it.each([
    ['spelling of numbers', ['TEL;CELL:07700 900123'], ['TEL;CELL:+44 (7700) 900-123']],
    ['order', ['TEL:1', 'EMAIL:a@example.org'], ['EMAIL:a@example.org', 'TEL:1']],
    ['Unicode form', ['N:Zoe\u0308;;;;'], ['N:Zoë;;;;']],
    ['case of a mail’s domain', ['EMAIL:Ann@EXAMPLE.org'], ['EMAIL:Ann@example.ORG']],
    ['preference', ['TEL;PREF:1'], ['TEL;TYPE=VOICE:1']],
    ['a name shown that the parts say already', ['N:Harrow;Ines;;;', 'FN:Ines Harrow'], ['N:Harrow;Ines;;;']],
    ['a name shown instead of a given name', ['FN:Mum'], ['N:;Mum;;;']],
    ['a name made up from the number', ['FN:07700 900123', 'TEL:07700900123'], ['TEL:07700900123']],
    ['the same number twice', ['TEL:1', 'TEL:1'], ['TEL:1']],
  ])('%s makes no difference', (_, one, other) => {
    expect(atoms(read(...one))).toEqual(atoms(read(...other)))
  })

  it.each([
    ['a label', ['TEL;HOME:1'], ['TEL;WORK:1']],
    ['an own label of a standard word', ['item1.TEL:1', 'item1.X-ABLabel:home'], ['TEL;HOME:1']],
    ['case of a mail’s local part', ['EMAIL:Ann@example.org'], ['EMAIL:ann@example.org']],
    ['a year', ['BDAY:1961-04-05'], ['BDAY:--04-05']],
    ['a line break in a note', ['VERSION:3.0', 'NOTE:a\\nb'], ['VERSION:3.0', 'NOTE:a b']],
    ['a star', ['FN:a', 'X-STARRED:1'], ['FN:a']],
  ])('%s makes a difference', (_, one, other) => {
    expect(atoms(read(...one))).not.toEqual(atoms(read(...other)))
  })

  it('numbers of another region stay apart: the same digits, two phones', () => {
    const [gb, de] = [createNumberReader('GB'), createNumberReader('DE')]
    expect(gb('020 7946 0123')).toBe('+442079460123')
    expect(de('030 123456')).toBe('+4930123456')
    expect(gb('+4930123456')).toBe(de('030 123456'))
  })

  it.each(['999', '*#06#', 'abc', '0800 FLOWERS'])('what is no number stays what it is: %s', (text) => {
    expect(createNumberReader('GB')(text).length).toBeGreaterThan(0)
  })

  it('match keys find the same person over other facts', () => {
    const keys = (...lines: string[]) => contactMatchKeys(contactAtoms(read(...lines), tools))
    const shared = keys('N:Harrow;Ines;;;', 'TEL;HOME:07700 900123').filter((k) =>
      keys('N:HARROW;INES;;;', 'TEL;CELL:+447700900123', 'NOTE:x').includes(k),
    )
    expect(shared).toHaveLength(2)
  })
})

describe('titles', () => {
  it.each<[Partial<Contact>, string]>([
    [{ name: { family: 'Harrow', given: 'Ines', middle: '', prefix: 'Dr', suffix: '' } }, 'Dr Ines Harrow'],
    [{ formattedName: 'Mum' }, 'Mum'],
    [{ nicknames: ['Ine'] }, 'Ine'],
    [{ company: 'Ferries' }, 'Ferries'],
    [{ phones: [{ value: '1', label: { types: [] } }] }, '1'],
    [{}, ''],
  ])('%j is shown as %s', (part, title) => {
    expect(contactTitle({ ...emptyContact, ...part })).toBe(title)
  })

  it('a shown name that is the company’s says nothing of its own', () => {
    expect(ownFormattedName({ ...emptyContact, formattedName: 'Ferries', company: 'Ferries' })).toBe('')
    expect(ownFormattedName({ ...emptyContact, formattedName: 'Ann', company: 'Ferries' })).toBe('Ann')
  })
})

describe('changing and writing', () => {
  const text = fc.string({ unit: 'grapheme', maxLength: 20 }).map((s) => s.replace(/[\p{C}\p{Z}]/gu, ' ').trim())
  const label = fc.oneof(
    fc.constantFrom([], ['cell'], ['home'], ['work'], ['car']).map((types) => ({ types })),
    text.filter(Boolean).map((custom) => ({ types: [], custom })),
  )
  const labelled = fc.record({ value: text.filter(Boolean), label })
  const contact: fc.Arbitrary<Contact> = fc
    .record({
      name: fc.record({ family: text, given: text, middle: text, prefix: text, suffix: text }),
      nicknames: fc.array(
        text.filter((s) => s !== ''),
        { maxLength: 1 },
      ),
      phones: fc.array(fc.record({ value: fc.integer({ min: 100000, max: 999999 }).map((n) => `07700 ${n}`), label }), { maxLength: 14 }),
      emails: fc.array(labelled, { maxLength: 3 }),
      company: text,
      department: text,
      note: text,
      groups: fc.uniqueArray(text.filter(Boolean), { maxLength: 3 }),
      starred: fc.boolean(),
      birthday: fc.constantFrom('', '1961-04-05', '--02-29'),
    })
    .map((part) => ({ ...emptyContact, ...part }))

  for (const model of phoneModels) {
    it(`${model.model}: a changed contact changes no more, and is read back from what is written`, () => {
      fc.assert(
        fc.property(contact, (original) => {
          const changed = changeContact(original, model)
          if ('cannot' in changed) return
          const again = changeContact(changed.item, model)
          expect(again).toEqual({ item: changed.item, changes: [] })
          const back = contacts.read(contacts.write(changed.item, model), tools)
          if (!back.ok) throw new Error(back.code)
          expect(atoms(back.item)).toEqual(atoms(changed.item))
        }),
        { seed: 41, numRuns: 150 },
      )
    })

    it(`${model.model}: what is named no loss loses nothing but labels’ kind`, () => {
      fc.assert(
        fc.property(contact, (original) => {
          const changed = changeContact(original, model)
          if ('cannot' in changed || changed.changes.some((c) => c.loss)) return
          const said = atoms(changed.item).join('\n')
          for (const phone of original.phones) expect(said).toContain(tools.number(phone.value).slice(-6))
          expect(changed.item.groups).toEqual(original.groups)
        }),
        { seed: 42, numRuns: 100 },
      )
    })
  }

  it('an unknown model is taken as the most limited of its platform, so that nothing is promised', () => {
    expect(findModel({ maker: 'New', model: 'New 1', platform: 'android' }).capability).toBe(
      phoneModels.find((m) => m.model === 'Tamsel M2')!.capability,
    )
  })

  it('a file takes nothing, and says by which rule', () => {
    expect(changeContact({ ...emptyContact, note: 'a' }, findModel({ maker: 'File', model: '', platform: 'file' }))).toEqual({
      cannot: 'file-is-read-only',
    })
  })
})

describe('labels, as people and phones spell them', () => {
  const labelled = (line: string) => `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Ada\r\n${line}\r\nEND:VCARD\r\n`
  const read = (line: string) => {
    const result = contacts.read(Buffer.from(labelled(line)), tools)
    if (!result.ok) throw new Error(result.code)
    return result.item
  }
  it.each([
    ['TEL;WORK,PREF:1', { types: ['work'] }],
    ['TEL;TYPE=work_fax:1', { types: [], custom: 'work_fax' }],
    ['TEL;TYPE=My Label:1', { types: [], custom: 'My Label' }],
    ['TEL;TYPE=home,Büro:1', { types: [], custom: 'Büro' }],
    ['item1.TEL:1\r\nitem1.X-ABLabel:_$!<Summer House>!$_', { types: [], custom: 'Summer House' }],
  ])('%s', (line, label) => {
    expect(read(line).phones[0]!.label).toEqual(label)
    for (const model of phoneModels.filter((model) => !('cannot' in contactsOn(model).write)))
      expect(() => contacts.write(read(line), model)).not.toThrow()
    for (const file of contacts.openFiles!) expect(() => file.write(read(line), { position: 1, number: (n) => n })).not.toThrow()
  })
  it('a date without a label comes back without one', () => {
    const contact = read('X-ABDATE:2020-05-01')
    expect(contact.dates).toEqual([{ value: '2020-05-01', label: { types: [] } }])
    for (const file of contacts.openFiles!) {
      const back = contacts.read(Buffer.from(file.write(contact, { position: 1, number: (n) => n })), tools)
      expect(back.ok && back.item.dates).toEqual(contact.dates)
    }
  })
})
