import type { OwnRecord, PhoneKind } from '../phone-kind.ts'
import type { StandinModel } from '../../phones/models.ts'
import { modelOf } from '../../phones/phone.ts'
import type { Person } from './dialect.ts'
import { dialects } from './dialects.ts'
import { people, type PersonOnPhone } from './people.ts'

interface Rows {
  readonly rows: readonly { readonly k: string; readonly v: readonly string[] }[]
}
interface Numbers {
  readonly name: string
  readonly numbers: readonly string[]
}
interface Fields {
  readonly note: string
}

/** A person as phones of a model keep them. */
export const personOn = (model: StandinModel, { person, storage, linkedTo, damage }: PersonOnPhone): OwnRecord => ({
  stored: dialects[model.dialect].store(person),
  storage: storage ?? 'phone',
  linkedTo,
  damage,
})

/** People as each family of phones keeps them. */
export const contacts: PhoneKind = {
  code: 'contacts',
  isAsked: true,
  isOnScreen: true,
  iosStorage: 'account',
  on(model) {
    const { limits, platform } = model
    const family = dialects[model.dialect]
    return {
      give: (stored) => family.give(stored),
      take: (bytes) => family.take(bytes),
      facts: (stored) => family.facts(stored),
      refuses(stored) {
        const { photoBytes, phones, noteChars } = family.figures(stored)
        if (family.name(stored).length > limits.nameChars) return 'name-too-long'
        if (photoBytes > limits.photoBytes) return 'photo-too-large'
        return phones > limits.phones || noteChars > limits.noteChars ? 'not-understood' : null
      },
      joining: {
        name: (stored) => family.name(stored),
        facts: (stored) => family.facts(stored),
        join: (into, other) => family.join(into, other),
        amends: platform === 'android',
      },
      ...(model.places === undefined ? {} : { places: model.places }),
    }
  },
  halve: (stored) => {
    const { rows } = stored as Partial<Rows>
    return rows ? { rows: rows.slice(0, Math.max(1, rows.length - 1)) } : { ...(stored as object), phones: [], emails: [], note: '' }
  },
  alter(stored) {
    const { rows } = stored as Partial<Rows>
    if ((stored as Partial<Numbers>).numbers) return { ...(stored as Numbers), name: `${(stored as Numbers).name}.` }
    if (!rows) return { ...(stored as Fields), note: `${(stored as Fields).note} edited` }
    // one note each: a second would be nowhere to be seen
    const note = rows.find(({ k }) => k === 'note')?.v[0] ?? ''
    return { rows: [...rows.filter(({ k }) => k !== 'note'), { k: 'note', v: [`${note} edited`.trim()] }] }
  },
  damaged: (body, damage) =>
    damage === 'bad-photo'
      ? Buffer.from(body.toString('latin1').replace(/END:VCARD/, 'PHOTO;ENCODING=BASE64:!!!!\r\n\r\nEND:VCARD'), 'latin1')
      : undefined,
  contents: (model, request) => people(request).map((one) => personOn(model, one)),
  given: (model, { persons = [] }) => (persons as { person: Person; storage?: string }[]).map((one) => personOn(model, one)),
  counted: async (_, phone, { persons }) => ({ derived: { ownCard: modelOf(phone).derived }, also: { persons } }),
}
