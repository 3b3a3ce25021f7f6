/** Letters that no decomposition takes apart. */
const plain: Readonly<Record<string, string>> = { ß: 'ss', æ: 'ae', œ: 'oe', ø: 'o', đ: 'd', ł: 'l', ı: 'i', þ: 'th', ð: 'd' }

/** A text as it is looked for: small letters without accents, blanks as one. */
export function foldForSearch(text: string): string {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[ßæœøđłıþð]/g, (letter) => plain[letter]!)
    .replace(/[’‘]/g, "'")
    .replace(/\s+/g, ' ')
    .trim()
}

/** What stands between the digits of a number: blanks, brackets, dots, dashes, a stroke. */
const between = '[\\s().\\-/\\u2010-\\u2015\\u00a0\\u202f]'
const numberInText = new RegExp(`\\+?\\d(?:${between}{0,3}\\d)+`, 'g')
const asNumber = new RegExp(`^\\+?(?:${between}*\\d)+${between}*$`)

/** A number without what its spelling adds: `+44 7700 900` and `07700 900` are both known by 7700900. */
interface Dialled {
  readonly digits: string
  readonly isInternational: boolean
  readonly isNational: boolean
}

function dialled(text: string): Dialled {
  const digits = text.replace(/\D/g, '')
  const isInternational = text.trim().startsWith('+') || digits.startsWith('00')
  const bare = isInternational ? digits.replace(/^00/, '') : digits
  const isNational = !isInternational && bare.startsWith('0')
  return { digits: isNational ? bare.slice(1) : bare, isInternational, isNational }
}

/** Country codes have one to three digits (E.164, 6.2.1); shorter rests say too little. */
const countryDigits = [1, 2, 3]
const fewestOfRest = 4

function isSpelledIn(wanted: Dialled, number: Dialled): boolean {
  if (number.digits.includes(wanted.digits)) return true
  const [abroad, home] = wanted.isInternational ? [wanted, number] : [number, wanted]
  if (!abroad.isInternational || !home.isNational || !wanted.isInternational) return false
  return countryDigits.some((n) => abroad.digits.length - n >= fewestOfRest && home.digits.startsWith(abroad.digits.slice(n)))
}

/**
 * Finds a text in others: names and words without regard to accents and capitals, every word of it anywhere; numbers
 * in any spelling, whole or in part.
 */
export function searcherFor(wanted: string): (text: string) => boolean {
  const words = foldForSearch(wanted).split(' ').filter(Boolean)
  const number = asNumber.test(wanted.trim()) && wanted.replace(/\D/g, '').length >= 3 ? dialled(wanted) : undefined
  return (text) => {
    const folded = foldForSearch(text)
    if (words.every((word) => folded.includes(word))) return true
    if (!number || number.digits.length === 0) return false
    return [...text.normalize('NFKC').matchAll(numberInText)].some(([found]) => isSpelledIn(number, dialled(found)))
  }
}
