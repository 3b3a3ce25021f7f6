import { Music } from '@lucide/vue'
import { fileShapes } from '../../words/file-shapes.ts'
import type { KindPack } from '../kind-pack.ts'

export const music: KindPack = {
  code: 'music',
  icon: Music,
  words: {
    title: 'Music',
    one: 'track',
    many: 'tracks',
    facets: {
      '': 'Any track',
      'music-podcast': 'Podcast episodes',
      'music-locked': 'Locked by its shop',
      'music-untitled': 'Without a title',
      'music-cloud': 'Only in the cloud',
      'music-large': '50 MB and more',
      'music-timed': 'With a length',
    },
    shapes: {
      ...fileShapes,
      podcast: ['podcast episode', 'podcast episodes'],
      untitled: ['without a title', 'without a title'],
    },
    group: { one: 'album', many: 'albums', title: 'Artists and albums', nameless: 'No artist' },
    sums: { fileBytes: 'Bytes of files', seconds: 'Length in all' },
    derived: { ringtones: { say: 'Ringtones and alerts', meaning: 'sounds the phone came with; nobody stored them' } },
    reasons: {
      'no-sound': 'the file is no sound',
      'no-place-for-music': 'the phone takes no music from outside',
    },
  },
}
