import { changeContact } from '#core/kinds/contacts/change.ts'
import { findModel } from '#core/phones/models.ts'
import { emptyContact, type Contact } from '#core/kinds/contacts/model.ts'

interface Named {
  readonly maker: string
  readonly model: string
  readonly platform: 'android' | 'ios' | 'file'
}

/** A contact that has everything, so that asking what becomes of it names every change a phone forces. */
const everything: Contact = {
  ...emptyContact,
  name: { family: 'a', given: 'a', middle: '', prefix: '', suffix: '' },
  phonetic: { family: 'a', given: '', middle: '' },
  phones: Array.from({ length: 12 }, (_, i) => ({ value: String(i), label: i === 0 ? { types: ['car'] } : { types: ['cell'] } })),
  emails: [{ value: 'a', label: { types: [], custom: 'a' } }],
  note: 'a'.repeat(2000),
  photo: { bytes: new Uint8Array(300_000) },
  groups: ['a'],
  starred: true,
  relations: [{ value: 'a', label: { types: [] } }],
}

/** For two phones: what crosses whole, what is changed and how, what can't cross and why. */
export function describePair(phones: { old: Named; new: Named }) {
  const target = findModel(phones.new)
  const result = changeContact(everything, target)
  if ('cannot' in result) return { kinds: [{ kind: 'contacts', crosses: 'cannot', rule: result.cannot, changes: [] }] }
  // what an old phone has no place for can't be lost on the way
  const impossible = phones.old.platform === 'ios' ? ['groups-dropped', 'star-dropped'] : []
  const changes = result.changes.filter((change) => !impossible.includes(change.code))
  return { kinds: [{ kind: 'contacts', crosses: changes.length > 0 ? 'changed' : 'whole', rule: null, changes: changes.map(({ code, loss }) => ({ code, loss })) }] }
}

