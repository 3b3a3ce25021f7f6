import { fates } from '#core/book/terms.ts'

/** The closed sets that pages know by name, for who must not load every contract with them. */

export const stages = ['book-in', 'make-ready', 'count-in', 'choose', 'carry-over', 'check-off', 'hand-back'] as const

/** What a count on the screen opens to. */
export const entryFilters = [
  'all',
  'read',
  'late',
  ...fates,
  'notOver',
  'toCome',
  'willCarry',
  'willChange',
  'toInstall',
  'willBeThere',
  'willMerge',
  'first',
  'last',
  'kept',
  'addedTo',
  'altered',
  'putBack',
  'arrived',
  'editedNow',
  'cameOtherwise',
  'leftBehind',
  'double',
  'cleared',
  'absorbed',
  'firstPushedOut',
  'missing',
  'parts',
  // of two that are compared
  'differs',
  'onlyHere',
] as const

/** Languages dates are written in (BCP 47). */
export const locales = [
  'en-GB',
  'en-IE',
  'en-US',
  'en-AU',
  'cy-GB',
  'de-DE',
  'es-ES',
  'fr-FR',
  'it-IT',
  'nl-NL',
  'pl-PL',
  'pt-PT',
  'sv-SE',
] as const

/** How a ticket ended, or that it has not. */
export const outcomes = ['open', 'agreed', 'accepted', 'signed-open', 'called-off'] as const

/** Why a need is gone on without. */
export const waiveReasons = ['not-possible-here', 'customer-knows', 'done-otherwise', 'not-needed-this-time'] as const

/** Why a copy is destroyed before its date. */
export const destroyReasons = ['customer-asked', 'put-back', 'by-mistake', 'not-needed'] as const
