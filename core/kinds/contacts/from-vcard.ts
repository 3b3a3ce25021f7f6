import { splitValue, unescapeValue, type Property, type Vcard, type VcardIssue } from '../../formats/vcard/index.ts'
import { emptyContact, noLabel, type Address, type Contact, type Label } from './model.ts'

/** Types that say how, not what, a value is; they carry no meaning for its owner. */
const silentTypes = new Set(['pref', 'voice', 'internet', 'x-internet', 'parcel', 'postal', 'dom', 'intl', 'msg', 'other', 'x400'])

type Draft = { -readonly [K in keyof Contact]: Contact[K] extends readonly (infer T)[] ? T[] : Contact[K] }

/**
 * The meaning of a card. Reads every dialect's own way for labels (`X-ABLabel` in the group, `X-…` types,
 * `X-CUSTOM(…)`) and for birthdays without a year. What it can't place is kept verbatim in `extra`.
 */
export function contactFromVcard(card: Vcard): { contact: Contact; issues: VcardIssue[] } {
  const isOld = card.version === '2.1'
  const draft = newDraft()
  const issues: VcardIssue[] = []
  const groupLabels = new Map<string, string>()
  for (const property of card.properties) {
    if (property.group && property.name === 'X-ABLABEL') {
      groupLabels.set(property.group.toLowerCase(), unescapeValue(property.value, isOld).trim())
    }
  }
  for (const property of card.properties) place(draft, property, { isOld, groupLabels, issues })
  return { contact: draft as Contact, issues }
}

/** structuredClone would cost more than reading the card. */
function newDraft(): Draft {
  return {
    ...emptyContact,
    nicknames: [],
    phones: [],
    emails: [],
    urls: [],
    ims: [],
    addresses: [],
    dates: [],
    groups: [],
    relations: [],
    extra: [],
  }
}

interface Reading {
  readonly isOld: boolean
  readonly groupLabels: ReadonlyMap<string, string>
  readonly issues: VcardIssue[]
}

const listNames = { EMAIL: 'emails', URL: 'urls' } as const

function place(draft: Draft, property: Property, reading: Reading) {
  const { isOld } = reading
  switch (property.name) {
    case 'VERSION':
    case 'PRODID':
    case 'REV':
    case 'UID':
    case 'X-ABLABEL':
    case 'X-ABADR':
    case 'SORT-STRING':
    case 'PROFILE':
    case 'KIND':
    case 'SOURCE':
    case 'MAILER':
      return
    case 'FN':
      draft.formattedName ||= textOf(property, isOld)
      return
    case 'N': {
      const [family = '', given = '', middle = '', prefix = '', suffix = ''] = partsOf(property, ';', isOld)
      draft.name = { family, given, middle, prefix, suffix }
      return
    }
    case 'X-PHONETIC-FIRST-NAME':
      draft.phonetic = { ...draft.phonetic, given: textOf(property, isOld) }
      return
    case 'X-PHONETIC-MIDDLE-NAME':
      draft.phonetic = { ...draft.phonetic, middle: textOf(property, isOld) }
      return
    case 'X-PHONETIC-LAST-NAME':
      draft.phonetic = { ...draft.phonetic, family: textOf(property, isOld) }
      return
    case 'NICKNAME':
    case 'X-NICKNAME':
      // 2.1 has no list type: one property a nickname
      for (const name of isOld ? [textOf(property, isOld)] : partsOf(property, ',', isOld)) if (name) draft.nicknames.push(name)
      return
    case 'TEL': {
      const value = textOf(property, isOld).replace(/^tel:/i, '')
      if (value) draft.phones.push({ value, label: labelOf(property, reading) })
      return
    }
    case 'EMAIL':
    case 'URL': {
      const value = textOf(property, isOld)
      if (value) draft[listNames[property.name]].push({ value, label: labelOf(property, reading) })
      return
    }
    case 'IMPP':
    case 'X-JABBER':
    case 'X-SIP': {
      const value = textOf(property, isOld)
      const scheme = property.name === 'X-JABBER' ? 'xmpp:' : property.name === 'X-SIP' ? 'sip:' : ''
      if (value) draft.ims.push({ value: value.includes(':') ? value : scheme + value, label: labelOf(property, reading) })
      return
    }
    case 'ADR': {
      const [poBox = '', extended = '', street = '', city = '', region = '', postcode = '', country = ''] = partsOf(property, ';', isOld)
      const address: Address = { poBox, extended, street, city, region, postcode, country }
      if (Object.values(address).some(Boolean)) draft.addresses.push({ ...address, label: labelOf(property, reading) })
      return
    }
    case 'ORG': {
      const [company = '', ...departments] = partsOf(property, ';', isOld)
      draft.company ||= company
      draft.department ||= departments.filter(Boolean).join(', ')
      return
    }
    case 'TITLE':
      draft.title ||= textOf(property, isOld)
      return
    case 'ROLE':
      draft.role ||= textOf(property, isOld)
      return
    case 'BDAY': {
      const date = readDate(property)
      if (date) draft.birthday = date
      else keepBadDate(draft, property, reading)
      return
    }
    case 'ANNIVERSARY':
    case 'X-ANNIVERSARY':
    case 'X-ABDATE': {
      const date = readDate(property)
      const label = property.name === 'X-ABDATE' ? labelOf(property, reading) : { types: ['anniversary'] }
      if (date) draft.dates.push({ value: date, label: asKnown(label, 'anniversary') })
      else keepBadDate(draft, property, reading)
      return
    }
    case 'NOTE': {
      const text = textOf(property, isOld)
      if (text) draft.note += draft.note ? `\n${text}` : text
      return
    }
    case 'PHOTO':
      if (property.bytes && property.bytes.length > 0) draft.photo ??= { bytes: property.bytes }
      else if (textOf(property, isOld)) draft.photo ??= { address: textOf(property, isOld) }
      return
    case 'CATEGORIES':
      for (const name of partsOf(property, ',', isOld)) if (name) draft.groups.push(name)
      return
    case 'X-RELATION':
    case 'X-ABRELATEDNAMES':
    case 'RELATED': {
      const value = textOf(property, isOld)
      if (value) draft.relations.push({ value, label: labelOf(property, reading) })
      return
    }
    case 'X-STARRED':
      draft.starred = textOf(property, isOld) === '1' || /^true$/i.test(textOf(property, isOld))
      return
    case 'X-SOCIALPROFILE': {
      const value = textOf(property, isOld)
      if (value) draft.urls.push({ value, label: labelOf(property, reading) })
      return
    }
    default:
      draft.extra.push({ name: property.name, value: property.bytes ? `${property.bytes.length} bytes` : textOf(property, isOld) })
  }
}

function textOf({ value }: Property, isOld: boolean): string {
  return unescapeValue(value, isOld).trim()
}

function partsOf({ value }: Property, separator: ';' | ',', isOld: boolean): string[] {
  const parts = splitValue(value, separator, isOld)
  for (let i = 0; i < parts.length; i++) parts[i] = parts[i]!.trim()
  return parts
}

/** A date nobody can read is kept as it was written, so that the forecast names it as a field that is lost. */
function keepBadDate(draft: Draft, property: Property, { issues }: Reading) {
  if (property.value.trim() === '') return
  draft.extra.push({ name: property.name, value: property.value.trim() })
  issues.push({ code: 'bad-date', property: property.name, line: 0, severity: 'harmless' })
}

function labelOf(property: Property, { groupLabels }: Reading): Label {
  const own = property.group ? groupLabels.get(property.group.toLowerCase()) : undefined
  if (own) {
    const known = /^_\$!<(.+)>!\$_$/.exec(own)
    return known && isToken(known[1]!) ? standard([known[1]!]) : { types: [], custom: known?.[1] ?? own }
  }
  const types = property.params.TYPE
  const label = property.params['X-LABEL']?.[0] ?? property.params.LABEL?.[0]
  if (!types) return label && property.name !== 'ADR' ? { types: [], custom: label } : noLabel
  if (types.length === 1 && !label && plainTypes.has(types[0]!)) return standardOne(types[0]!)
  const bracketed = types.map((type) => /^X-CUSTOM\((?:[^,]*,){0,2}(.*)\)$/i.exec(type)?.[1]).find(Boolean)
  if (bracketed) return { types: [], custom: decodeBracketed(bracketed) }
  if (label && property.name !== 'ADR') return { types: [], custom: label }
  const custom = types.find((type) => /^x-./i.test(type) && !silentTypes.has(type.toLowerCase()))
  if (custom) return { types: [], custom: custom.slice(2) }
  // a word the grammar has no place for is somebody’s own label: work_fax, My Label
  const spelled = types.find((type) => type.trim() !== '' && !isToken(type))
  if (spelled !== undefined) return { types: [], custom: spelled.trim() }
  return standard(types)
}

/** The spellings that most labels of most phones have; their labels are made once. */
const plainTypes = new Set(['CELL', 'HOME', 'WORK', 'cell', 'home', 'work', 'VOICE', 'PREF', 'INTERNET'])
const madeLabels = new Map<string, Label>()

function standardOne(type: string): Label {
  const known = madeLabels.get(type)
  if (known) return known
  const label = standard([type])
  madeLabels.set(type, label)
  return label
}

const isToken = (type: string) => /^[A-Za-z0-9-]+$/.test(type)

function standard(types: readonly string[]): Label {
  const kept = types.map((type) => type.toLowerCase()).map((type) => (type === 'mobile' ? 'cell' : type === 'homepage' ? 'home' : type))
  return { types: [...new Set(kept.filter((type) => isToken(type) && !silentTypes.has(type)))].sort() }
}

function asKnown(label: Label, known: string): Label {
  return label.custom?.toLowerCase() === known ? { types: [known] } : label
}

function decodeBracketed(text: string): string {
  const bytes = text.replace(/=([0-9A-F]{2})/gi, '%$1')
  try {
    return decodeURIComponent(bytes)
  } catch {
    return text
  }
}

/** `YYYY-MM-DD`, or `--MM-DD` without a year (RFC 6350 section 4.3.1, and the year 1604 some phones write instead). */
function readDate(property: Property): string | undefined {
  const raw = property.value.trim()
  const omitted = Object.entries(property.params).find(([name]) => name.endsWith('OMIT-YEAR'))?.[1][0]
  const full = /^(\d{4})-?(\d{2})-?(\d{2})(?:T.*)?$/.exec(raw)
  const [, year, month, day] = full ?? []
  const short = /^--(\d{2})-?(\d{2})$/.exec(raw)
  const m = Number(month ?? short?.[1])
  const d = Number(day ?? short?.[2])
  if (!(m >= 1 && m <= 12 && d >= 1 && d <= 31)) return undefined
  const tail = `${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`
  return year && year !== omitted && year !== '0000' ? `${year}-${tail}` : `--${tail}`
}
