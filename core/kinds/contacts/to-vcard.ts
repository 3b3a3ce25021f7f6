import { writeVcard, type PlainProperty, type VcardVersion } from '../../formats/vcard/index.ts'
import { base64Text } from '../../text/bytes.ts'
import { contactTitle, ownFormattedName, type Contact, type Label } from './model.ts'

/** Writes a contact that already has the new phone's form. Own labels go in a group's `X-ABLabel`, legal in all versions. */
export function contactToVcard(contact: Contact, version: VcardVersion): Uint8Array {
  const out: PlainProperty[] = []
  let group = 0
  const labelled = (name: string, value: PlainProperty['value'], label: Label, extra: readonly string[] = []) => {
    if (label.custom === undefined) {
      out.push({ name, types: [...extra, ...label.types].map((type) => (version === '4.0' ? type : type.toUpperCase())), value })
      return
    }
    const own = `item${++group}`
    out.push({ group: own, name, types: extra, value }, { group: own, name: 'X-ABLabel', value: label.custom })
  }
  const text = (name: string, value: string) => value && out.push({ name, value })
  const { family, given, middle, prefix, suffix } = contact.name
  const hasParts = Object.values(contact.name).some(Boolean)
  out.push({ name: 'N', value: [family, hasParts ? given : ownFormattedName(contact), middle, prefix, suffix] })
  out.push({ name: 'FN', value: contact.formattedName || contactTitle(contact) })
  text('X-PHONETIC-LAST-NAME', contact.phonetic.family)
  text('X-PHONETIC-FIRST-NAME', contact.phonetic.given)
  text('X-PHONETIC-MIDDLE-NAME', contact.phonetic.middle)
  if (contact.nicknames.length > 0) {
    if (version !== '2.1') out.push({ name: 'NICKNAME', value: contact.nicknames, separator: ',' })
    else for (const nickname of contact.nicknames) text('X-NICKNAME', nickname)
  }
  for (const { value, label } of contact.phones) labelled('TEL', value, label)
  for (const { value, label } of contact.emails) labelled('EMAIL', value, label, version === '4.0' ? [] : ['INTERNET'])
  for (const { value, label } of contact.urls) labelled('URL', value, label)
  for (const { value, label } of contact.ims) labelled('IMPP', value, label)
  for (const a of contact.addresses) {
    labelled('ADR', [a.poBox, a.extended, a.street, a.city, a.region, a.postcode, a.country], a.label)
  }
  if (contact.company || contact.department) out.push({ name: 'ORG', value: [contact.company, contact.department] })
  text('TITLE', contact.title)
  text('ROLE', contact.role)
  if (contact.birthday) out.push(dateProperty('BDAY', contact.birthday, version))
  for (const { value, label } of contact.dates) {
    const own = label.custom ?? label.types.join(' ')
    if (own === 'anniversary' && label.custom === undefined)
      out.push(dateProperty(version === '4.0' ? 'ANNIVERSARY' : 'X-ANNIVERSARY', value, version))
    else if (own === '') out.push(dateProperty('X-ABDATE', value, version))
    else {
      const grouped = `item${++group}`
      out.push({ ...dateProperty('X-ABDATE', value, version), group: grouped }, { group: grouped, name: 'X-ABLabel', value: own })
    }
  }
  text('NOTE', contact.note)
  for (const { value, label } of contact.relations) labelled('X-RELATION', value, label)
  if (contact.groups.length > 0) out.push({ name: 'CATEGORIES', value: contact.groups, separator: ',' })
  if (contact.starred) out.push({ name: 'X-STARRED', value: '1' })
  if (contact.photo && 'bytes' in contact.photo) {
    const { bytes } = contact.photo
    if (version === '4.0')
      out.push({ name: 'PHOTO', value: `data:image/${imageType(bytes).toLowerCase()};base64,${base64Text(bytes)}`, isRaw: true })
    else out.push({ name: 'PHOTO', types: [imageType(bytes)], value: bytes })
  }
  if (contact.photo && 'address' in contact.photo)
    out.push({ name: 'PHOTO', params: { VALUE: version === '2.1' ? 'URL' : 'uri' }, value: contact.photo.address, isRaw: true })
  // what has no place of its own stays as it is; a phone's form has none of it
  for (const { name, value } of contact.extra) if (/^[A-Za-z0-9-]+$/.test(name)) out.push({ name, value })
  return writeVcard(out, version)
}

/**
 * 3.0 has no date without a year: 1604 stands in, named by a parameter, as phones write it. 4.0 writes dates in the
 * basic form, without a year as `--0415` (RFC 6350 section 4.3.1).
 */
function dateProperty(name: string, date: string, version: VcardVersion): PlainProperty {
  if (version === '4.0')
    return /^(\d{4}|-)-\d\d-\d\d$/.test(date)
      ? { name, value: date.startsWith('--') ? `--${date.slice(2).replace('-', '')}` : date.replaceAll('-', '') }
      : { name, params: { VALUE: 'text' }, value: date }
  if (!date.startsWith('--')) return { name, value: date }
  if (version === '2.1') return { name, value: date }
  return { name, params: { 'X-OMIT-YEAR': '1604' }, value: `1604-${date.slice(2)}` }
}

function imageType(bytes: Uint8Array): string {
  return bytes[0] === 0x89 && bytes[1] === 0x50 ? 'PNG' : bytes[0] === 0x47 ? 'GIF' : 'JPEG'
}
