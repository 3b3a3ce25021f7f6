import type { PlaceKind } from '#contracts/http/fields.ts'
import type { PhoneOnTicket } from '#contracts/http/ticket.ts'
import { common } from './common.ts'
import { copyLine as said, lastDayOf, lookBoard } from './lockers.ts'
import { bytes, day, number, phoneName } from './say.ts'
import { homeLine as home } from './take-home.ts'

/** “copy 3”, “the Orrin 5”: the same at the head of a column. */
export function shortNameOf({ copy, model }: Pick<PhoneOnTicket, 'copy' | 'model'>): string {
  return copy ? lookBoard.copyOf(copy.id, '') : lookBoard.thePhone(model)
}

/** “copy 3 as of 27 Nov 2026”, “the Orrin 5 as it is now”: a side of a look. */
export function nameOf({ copy, model }: Pick<PhoneOnTicket, 'copy' | 'model'>): string {
  return copy ? lookBoard.copyOf(copy.id, copy.asOf ? day(copy.asOf) : '') : lookBoard.phoneNow(model)
}

/** “Old phone”, “New phone”; where a side is no phone, what it is. */
export function sideName(side: 'old' | 'new', place: PlaceKind): string {
  if (place === 'folder') return home.name
  if (place === 'locker') return side === 'old' ? said.fromLocker : said.intoLocker
  return side === 'old' ? common.oldPhone : common.newPhone
}

/** A side on paper: a phone by maker, model and serial; a copy by its number, and as of when or until when. */
export function onPaper(side: PhoneOnTicket): string {
  if (side.place === 'folder') return [homeLineOf(side), ...(side.archive ? [home.mark(side.archive.mark)] : [])].join(', ')
  const phone = side.side === 'new' && side.place === 'locker' ? '' : phoneName(side)
  const rest = side.copy ? copyLineOf(side.copy, side.side) : side.place === 'bench' ? (side.serial ?? '') : ''
  return [phone, rest].filter(Boolean).join(', ')
}

/** “48 files, 21.4 MB”: what is taken home. */
export function homeLineOf({ archive }: Pick<PhoneOnTicket, 'archive'>): string {
  return archive ? home.made(number(archive.files), bytes(archive.sizeBytes)) : home.notMade
}

/** “copy 3, kept until 27 Dec 2026” of one that is made; “copy 3 as of 27 Nov 2026, 2 short then” of one that is put back. */
export function copyLineOf(copy: NonNullable<PhoneOnTicket['copy']>, side: 'old' | 'new'): string {
  const { id, asOf, keepUntil, shortThen, isDestroyed } = copy
  const rest = isDestroyed
    ? [said.destroyed]
    : side === 'new'
      ? [said.keptUntil(day(lastDayOf(keepUntil)))]
      : [...(asOf ? [said.asOf(day(asOf))] : []), ...(shortThen > 0 ? [said.shortThen(number(shortThen))] : [])]
  return said.copy(id, rest.join(', '))
}
