import { isFilm } from '../../formats/sniff.ts'
import { albumsOf, oneFileKind } from '../one-file/index.ts'
import { videosFace } from './face.ts'

/** Films, wherever they lie; the moving half of a photo stays with its photo. */
export const videos = oneFileKind({
  face: videosFace,
  tag: 'video',
  title: 'Videos',
  isOne: { by: ({ type }) => isFilm(type), rule: 'no-film' },
  content: ['favourite', 'hidden', 'slow'],
  isDated: true,
  isDatedByFile: true,
  hasAlbums: true,
  hasPlace: true,
  isPlayed: true,
  hasLength: true,
  shown: 'phone',
  waysOut: ['since-year', 'no-large', 'no-long', 'favourites', 'without'],
  titleOf: ({ name }) => name,
  groupOf: (file) => albumsOf(file)[0] ?? 'Camera',
  linesOf: (file) => albumsOf(file).map((name) => ['album', name] as const),
  marksOf: ({ says, hasPlace }) => ({
    slow: says.slow !== undefined,
    favourite: says.favourite !== undefined,
    hidden: says.hidden !== undefined,
    placed: hasPlace,
  }),
  folderOf: ({ atMs }) => (atMs === null ? 'Without a date' : String(new Date(atMs).getUTCFullYear())),
  brings: ({ type }) => isFilm(type),
  page: { by: 'year' },
  sampleOf: {
    Orrin: { type: 'video/x-matroska', codecs: ['vp9'] },
    Tamsel: { type: 'video/3gpp', codecs: ['h263', 'amr'] },
    Veyra: { type: 'video/quicktime', codecs: ['hevc', 'aac'] },
    '': { type: 'video/mp4' },
  },
  sampleSays: { favourite: 'yes', hidden: 'yes', slow: 'yes' },
  leftByDefault: ['deleted'],
})
