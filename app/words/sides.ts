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

const home: readonly Phrase[] = [
  [/\bnew phone\b/g, 'take-home file'],
  [/\bNew phone\b/g, 'Take-home file'],
]

/** What is said of two phones, said of what is there: a copy that is put back, a locker that takes one, files that are taken home. */
export function ofSides(text: string, places: SidePlaces): string {
  const phrases = [
    ...(places.old === 'locker' ? old : []),
    ...(places.new === 'locker' ? now : []),
    ...(places.new === 'folder' ? home : []),
    ...(places.old === 'locker' || places.new === 'locker' || places.new === 'folder' ? both : []),
  ]
  return phrases.reduce((said, [phrase, instead]) => said.replace(phrase, instead), text)
}
