import { number, type Shown } from './say.ts'

/** photos/PhotoGrid.vue */
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

/** photos/SpaceBox.vue */
export const spaceBox = {
  spaceAndTime: 'Space and time',
  converted: (items: number, growsBytes: Shown, seconds: Shown, isMeasured: boolean) =>
    `${number(items)} ${items === 1 ? 'picture is' : 'pictures are'} converted: ${growsBytes} more, ${seconds}${isMeasured ? ', by those measured on this phone' : ', by what is usual'}.`,
  restsForHeat: 'Rests for heat are reckoned in.',
  itDoesNotFit: 'It does not fit, and does not start.',
  wayOut: (items: Shown, bytes: Shown, fits: boolean) => `${items} photos, ${bytes}${fits ? ': fits' : ': still too much'}`,
  chosenFiles: 'Chosen files',
  conversionAddsAbout: 'Conversion adds about',
  freeOn: (model: Shown) => `Free on the ${model}`,
  itNeedsToKeep: 'It needs to keep free',
  missing: 'Missing',
  freeAfterwards: 'Free afterwards',
  carryingAndChecking: 'Carrying and checking',
  oldPhoneGave: (bytes: Shown) => `the old phone gave ${bytes} a second`,
  favouritesOnly: 'Favourites only',
  withoutLargeFilms: 'Without films of 50 MB and more',
  onlyFromOn: (year: Shown) => `Only from ${year} on`,
}
