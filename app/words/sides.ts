import type { PlaceKind } from '#contracts/http/fields.ts'

/** What the sides of a ticket are. */
export interface SidePlaces {
  readonly old: PlaceKind
  readonly new: PlaceKind
}

type Phrase = readonly [RegExp, string]
const both: readonly Phrase[] = [
  [/\bboth phones\b/g, 'both sides'],
  [/\bBoth phones\b/g, 'Both sides'],
  [/\bthe phones\b/g, 'both sides'],
]
const old: readonly Phrase[] = [
  [/\bold phone\b/g, 'copy'],
  [/\bOld phone\b/g, 'Copy'],
]
const now: readonly Phrase[] = [
  [/\bnew phone\b/g, 'locker'],
  [/\bNew phone\b/g, 'Locker'],
]

/** What is said of two phones, said of what is there: a copy that is put back, a locker that takes one. */
export function ofSides(text: string, places: SidePlaces): string {
  const phrases = [
    ...(places.old === 'locker' ? old : []),
    ...(places.new === 'locker' ? now : []),
    ...(places.old === 'locker' || places.new === 'locker' ? both : []),
  ]
  return phrases.reduce((said, [phrase, instead]) => said.replace(phrase, instead), text)
}
