import { isSound } from '../../formats/sniff.ts'
import { oneFileKind, type OneFile } from '../one-file/index.ts'
import { musicFace } from './face.ts'

/** What the file says stands before what the phone's list says: lists keep what was wrong once. */
const artistOf = ({ seen, says }: OneFile) => seen.artist || (says.artist ?? '')
const albumOf = ({ seen, says }: OneFile) => seen.album || (says.album ?? '')
const isEpisode = ({ seen, says }: OneFile) => seen.isPodcast || says.podcast !== undefined

/** Tracks, and episodes of podcasts as a slice of their own. */
export const music = oneFileKind({
  face: musicFace,
  tag: 'track',
  title: 'Music',
  isOne: { by: ({ type }) => isSound(type), rule: 'no-sound' },
  // what it is called and by whom stands in the file itself, and comes over with it
  content: [],
  isDated: false,
  isPlayed: true,
  hasLength: true,
  waysOut: ['no-large', 'without'],
  titleOf: (file) => file.seen.title || file.says.title || file.name,
  groupOf: (file) => [artistOf(file), albumOf(file)].filter(Boolean).join(', '),
  linesOf: (file) => [
    ['artist', artistOf(file)],
    ['albumTitle', albumOf(file)],
    ['track', file.seen.track || (file.says.track ?? '')],
    ['year', file.seen.year],
  ],
  marksOf: (file) => ({ podcast: isEpisode(file), untitled: !file.seen.title && !file.says.title }),
  folderOf: (file) =>
    isEpisode(file) ? 'Podcasts' : [artistOf(file) || 'No artist', albumOf(file)].filter(Boolean).map(asFolder).join('/'),
  brings: ({ type }) => isSound(type) && type !== 'audio/amr',
  page: { by: 'group' },
  sampleOf: {
    Orrin: { type: 'audio/ogg', codecs: ['vorbis'] },
    Tamsel: { type: 'audio/ogg', codecs: ['vorbis'] },
    Veyra: { type: 'audio/mp4', codecs: ['alac'] },
    '': { type: 'audio/mpeg' },
  },
})

const asFolder = (name: string) => name.replaceAll('/', '-')
