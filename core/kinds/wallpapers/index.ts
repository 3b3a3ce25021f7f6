import { isFilm } from '../../formats/sniff.ts'
import { oneFileKind } from '../one-file/index.ts'
import { endingOf } from '../one-file/names.ts'
import { wallpapersFace } from './face.ts'

/** The pictures of the lock screen and the home screen, each with its place. */
export const wallpapers = oneFileKind({
  face: wallpapersFace,
  tag: 'wallpaper',
  title: 'Wallpapers',
  isOne: { by: ({ type }) => type.startsWith('image/') || isFilm(type), rule: 'no-picture' },
  content: ['places'],
  isDated: false,
  isPlayed: true,
  placedName: (file) => `Wallpaper ${file.says.places ?? ''}`.trim().replace('home lock', 'both') + endingOf(file),
  titleOf: ({ name }) => name,
  groupOf: () => '',
  linesOf: ({ says }) => [['places', says.places ?? '']],
  marksOf: ({ says, type }) => ({
    lock: says.places?.includes('lock') === true,
    home: says.places?.includes('home') === true,
    moving: isFilm(type),
  }),
  sampleOf: { '': { type: 'image/jpeg' } },
  sampleSays: { places: 'home lock' },
})
