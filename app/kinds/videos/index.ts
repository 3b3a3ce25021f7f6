import { Film } from '@lucide/vue'
import { defineAsyncComponent } from 'vue'
import { fileShapes } from '../../words/file-shapes.ts'
import type { KindPack } from '../kind-pack.ts'

export const videos: KindPack = {
  code: 'videos',
  icon: Film,
  byMonth: true,
  bySpan: true,
  tiles: defineAsyncComponent(() => import('../photos/PhotoGrid.vue')),
  words: {
    title: 'Videos',
    one: 'video',
    many: 'videos',
    facets: {
      '': 'Any video',
      'video-long': 'Longer than 10 minutes',
      'video-large': '1 GB and more',
      'video-slow': 'Slow motion',
      'video-favourite': 'Favourites',
      'video-hidden': 'Hidden',
      'video-cloud': 'Only in the cloud',
      'video-damaged': 'Damaged',
      'video-turned': 'Turned',
      'video-placed': 'With a place',
      'video-timed': 'With a length',
    },
    shapes: {
      ...fileShapes,
      slow: ['slow motion', 'slow motion'],
      favourite: ['favourite', 'favourites'],
      hidden: ['hidden', 'hidden'],
      placed: ['with a place', 'with a place'],
    },
    group: { one: 'album', many: 'albums', title: 'Albums and folders', nameless: 'No name' },
    sums: { fileBytes: 'Bytes of files', seconds: 'Length in all' },
    reasons: {
      'not-playable': 'the phone can’t play or open it; it is carried as a file, and the customer can open it on a computer',
      'slow-becomes-plain': 'it plays at one speed: the phone has no slow motion',
      'no-film': 'the file is no film',
      'no-place-for-videos': 'the phone has no place for films from outside',
      'locked-by-its-shop': 'it opens with the key of the shop it was bought in; the customer can get it there again',
      'too-large-for-it': 'one file of it is larger than the phone’s card holds; the customer can keep it on a computer',
    },
  },
}
