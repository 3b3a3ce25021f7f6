import type { Shown } from '../../words/say.ts'

/** PhotoGrid.vue */
export const photoGrid = {
  film: 'film',
  asTiles: (kind: Shown) => `${kind} as tiles`,
  masked: (text: Shown) => `${text}, masked by shape, date and size. Space chooses, Enter opens.`,
  showPictures: 'Show the pictures…',
  picturesAreShown: 'Pictures are shown to you',
  noDate: 'no date',
  carryOne: (one: Shown, position: Shown) => `Carry ${one} ${position}`,
  movingPhoto: 'moving photo',
}
