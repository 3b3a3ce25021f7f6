import type { Shown } from '../../words/say.ts'

/** PhotoGrid.vue */
export const photoGrid = {
  film: 'film',
  photosAsTiles: 'Photos as tiles',
  masked: (text: Shown) => `${text}, masked by shape, date and size. Space chooses, Enter opens.`,
  showPictures: 'Show the pictures…',
  picturesAreShown: 'Pictures are shown to you',
  noDate: 'no date',
  carryPhoto: (position: Shown) => `Carry photo ${position}`,
  movingPhoto: 'moving photo',
}
