import { FileText } from '@lucide/vue'
import { fileShapes } from '../../words/file-shapes.ts'
import type { KindPack } from '../kind-pack.ts'

export const documents: KindPack = {
  code: 'documents',
  icon: FileText,
  words: {
    title: 'Documents',
    one: 'document',
    many: 'documents',
    facets: {
      '': 'Any document',
      'document-large': '20 MB and more',
      'document-locked': 'Locked with a password',
      'document-empty': 'Empty',
      'document-cloud': 'Only in the cloud',
    },
    shapes: {
      ...fileShapes,
      empty: ['empty', 'empty'],
    },
    group: { one: 'folder', many: 'folders', title: 'Folders', nameless: 'No folder' },
    sums: { fileBytes: 'Bytes of files' },
    derived: { appFolders: { say: 'Files in apps’ own folders', meaning: 'the apps’ business; they are left alone' } },
  },
}
