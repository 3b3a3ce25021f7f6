import { utf8Bytes } from '../../text/bytes.ts'
import { parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js'
import { ownFormattedName, type Contact, type Label } from './model.ts'

/** Raised whenever the same contact would give other bytes; readings of another version are never compared. */
export const contactCanonicalVersion = 1

export interface CanonicalTools {
  /** A number as E.164 where it is one in this region, else its digits; see {@link createNumberReader}. */
  readonly number: (text: string) => string
  /** Digest of bytes, as text; used for photos. */
  readonly hash: (bytes: Uint8Array) => string
}

/**
 * What a contact says, as a sorted set of atoms: one for each fact that must be found again.
 * Order, case of types, spelling of numbers and Unicode form are removed.
 */
export function contactAtoms(contact: Contact, tools: CanonicalTools): string[] {
  const atoms = new Set<string>()
  const { family, given, middle, prefix, suffix } = contact.name
  const hasParts = (family + given + middle + prefix + suffix).trim() !== ''
  if (hasParts) add(atoms, 'name', family, given, middle, prefix, suffix)
  else add(atoms, 'name', '', ownFormattedName(contact), '', '', '')
  add(atoms, 'phonetic', contact.phonetic.family, contact.phonetic.given, contact.phonetic.middle)
  for (const nickname of contact.nicknames) add(atoms, 'nickname', nickname)
  for (const { value, label } of contact.phones) addLabelled(atoms, 'phone', tools.number(value), label)
  for (const { value, label } of contact.emails) addLabelled(atoms, 'email', mailKey(value), label)
  for (const { value, label } of contact.urls) addLabelled(atoms, 'url', value, label)
  for (const { value, label } of contact.ims) addLabelled(atoms, 'im', value, label)
  for (const a of contact.addresses) {
    const value = [a.poBox, a.extended, a.street, a.city, a.region, a.postcode, a.country].map(normal).join('\u001e')
    addLabelled(atoms, 'address', value, a.label)
  }
  add(atoms, 'company', contact.company)
  add(atoms, 'department', contact.department)
  add(atoms, 'title', contact.title)
  add(atoms, 'role', contact.role)
  add(atoms, 'birthday', contact.birthday)
  for (const { value, label } of contact.dates) addLabelled(atoms, 'date', value, label)
  add(atoms, 'note', contact.note)
  if (contact.photo) {
    add(atoms, 'photo', 'bytes' in contact.photo ? tools.hash(contact.photo.bytes) : contact.photo.address)
  }
  for (const group of contact.groups) add(atoms, 'group', group)
  for (const { value, label } of contact.relations) addLabelled(atoms, 'relation', value, label)
  if (contact.starred) atoms.add('starred')
  for (const { name, value } of contact.extra) add(atoms, 'extra', name, value)
  return [...atoms].sort()
}

/** Canonical bytes: what is digested and compared. */
export function canonicalBytes(atoms: readonly string[]): Uint8Array {
  return utf8Bytes(`contacts ${contactCanonicalVersion}\n${atoms.join('\n')}`)
}

/** Keys by which two contacts may be the same person's: the name, each number and each address. */
export function contactMatchKeys(atoms: readonly string[]): string[] {
  const keys = new Set<string>()
  for (const atom of atoms) {
    const end = atom.indexOf('\u001f')
    const kind = atom.slice(0, end)
    if (kind === 'phone' || kind === 'email') keys.add(`${kind}:${atom.slice(end + 1, atom.indexOf('\u001f', end + 1))}`)
    else if (kind === 'name')
      keys.add(
        `name:${atom
          .slice(end + 1)
          .replaceAll('\u001f', ' ')
          .toLowerCase()}`,
      )
    else if (kind === 'company') keys.add(`name:${atom.slice(end + 1).toLowerCase()}`)
  }
  return [...keys]
}

/**
 * Reads numbers in E.164 by a region, remembering each spelling: a phone holds few distinct ones.
 * @param region ISO 3166 code of the phone's region; an unknown one leaves national numbers as digits
 */
export function createNumberReader(region: string, capacity = 50_000): (text: string) => string {
  const seen = new Map<string, string>()
  return (text) => {
    const known = seen.get(text)
    if (known !== undefined) return known
    const parsed = parsePhoneNumberFromString(text.normalize('NFKC'), region as CountryCode)
    const value = parsed?.isPossible() ? parsed.number + (parsed.ext ? `;${parsed.ext}` : '') : bareNumber(text)
    if (seen.size >= capacity) seen.clear()
    seen.set(text, value)
    return value
  }
}

function bareNumber(text: string): string {
  const digits = text.normalize('NFKC').replace(/[\s().\-/\u2010-\u2015\u00a0]/g, '')
  return digits || text.trim()
}

function add(atoms: Set<string>, kind: string, ...parts: string[]) {
  let atom = kind
  let says = false
  for (const part of parts) {
    const clean = part === '' ? '' : normal(part)
    if (clean !== '') says = true
    atom += '\u001f' + clean
  }
  if (says) atoms.add(atom)
}

function addLabelled(atoms: Set<string>, kind: string, value: string, label: Label) {
  const clean = normal(value)
  if (clean) atoms.add(`${kind}\u001f${clean}\u001f${labelKey(label)}`)
}

export function labelKey(label: Label): string {
  return label.custom !== undefined ? `"${normal(label.custom)}` : label.types.join(' ')
}

function mailKey(address: string): string {
  const at = address.lastIndexOf('@')
  return at < 0 ? address : address.slice(0, at) + address.slice(at).toLowerCase()
}

const plainAscii = /^[\x20-\x7e]*$/

function normal(text: string): string {
  // most of what phones hold is plain: nothing in it to bring to a normal form
  if (plainAscii.test(text)) return text.trim()
  return text
    .normalize('NFC')
    .replace(/\r\n|\r/g, '\n')
    .replace(/[\u001e\u001f]/g, ' ')
    .trim()
}
