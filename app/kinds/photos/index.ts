import { Image } from '@lucide/vue'
import { defineAsyncComponent } from 'vue'
import type { KindPack } from '../kind-pack.ts'

export const photos: KindPack = {
  code: 'photos',
  icon: Image,
  byMonth: true,
  bySpan: true,
  furtherReason: 'original-beside',
  tiles: defineAsyncComponent(() => import('./PhotoGrid.vue')),
  words: {
    title: 'Photos',
    one: 'photo',
    many: 'photos',
    facets: {
      '': 'Any photo',
      'photo-favourite': 'Favourites',
      'photo-film': 'Films',
      'photo-moving': 'Moving',
      'photo-edited': 'Edited',
      'photo-burst': 'In a burst',
      'photo-hidden': 'Hidden',
      'photo-large': '10 MB and more',
      'photo-heic': 'HEIC',
      'photo-cloud': 'Only in the cloud',
      'photo-damaged': 'Damaged',
      'photo-placed': 'With a place',
      'photo-files': 'With files here',
    },
    shapes: {
      files: ['file', 'files'],
      film: ['film', 'films'],
      moving: ['moving', 'moving'],
      edited: ['edited', 'edited'],
      favourite: ['favourite', 'favourites'],
      hidden: ['hidden', 'hidden'],
      burst: ['in a burst', 'in a burst'],
      cloud: ['only in the cloud', 'only in the cloud'],
      turned: ['turned', 'turned'],
      damaged: ['damaged', 'damaged'],
      placed: ['with a place', 'with a place'],
      heic: ['HEIC', 'HEIC'],
    },
    group: { one: 'album', many: 'albums', title: 'Albums and folders', nameless: 'No name' },
    sums: { files: 'Files', fileBytes: 'Bytes of files' },
    derived: {
      clipsApart: {
        say: 'Clips kept beside their pictures',
        meaning: 'moving halves the phone lists once more; each belongs to a photo counted above',
      },
    },
  },
}
