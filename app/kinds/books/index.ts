import { BookOpen } from '@lucide/vue'
import { fileShapes } from '../../words/file-shapes.ts'
import type { KindPack } from '../kind-pack.ts'

export const books: KindPack = {
  code: 'books',
  icon: BookOpen,
  words: {
    title: 'Books',
    one: 'book',
    many: 'books',
    facets: {
      '': 'Any book',
      'book-heard': 'To be heard',
      'book-locked': 'Locked by its shop',
      'book-begun': 'Begun',
      'book-marked': 'With marks',
      'book-cloud': 'Only in the cloud',
    },
    shapes: {
      ...fileShapes,
      heard: ['to be heard', 'to be heard'],
      begun: ['begun', 'begun'],
      marked: ['with marks', 'with marks'],
    },
    group: { one: 'author', many: 'authors', title: 'Authors', nameless: 'No author' },
    sums: { fileBytes: 'Bytes of files' },
    reasons: {
      'no-book': 'the file is no book',
      'position-dropped': 'where its reader was in it is left off',
      'marks-dropped': 'its reader’s marks are left off',
    },
  },
}
