import { AudioLines } from '@lucide/vue'
import { fileShapes } from '../../words/file-shapes.ts'
import type { KindPack } from '../kind-pack.ts'

export const recordings: KindPack = {
  code: 'recordings',
  icon: AudioLines,
  bySpan: true,
  words: {
    title: 'Sound recordings',
    one: 'recording',
    many: 'recordings',
    facets: {
      '': 'Any recording',
      'recording-long': 'Longer than 10 minutes',
      'recording-cloud': 'Only in the cloud',
      'recording-damaged': 'Damaged',
      'recording-apart': 'Among the phone’s files',
      'recording-timed': 'With a length',
    },
    shapes: {
      ...fileShapes,
    },
    group: { one: 'folder', many: 'folders', title: 'Folders', nameless: 'No folder' },
    sums: { fileBytes: 'Bytes of files', seconds: 'Length in all' },
    reasons: {
      'placed-in-files': 'it stands among the phone’s files, in a folder of its own: nobody but the phone puts one into its list',
      'title-in-file': 'its title and its date are written into the file: a player shows them',
      'title-in-name': 'its title is its file’s name there',
      'name-changed': 'its name held a sign the phone’s files can’t have; it is called nearly the same',
      'no-place-for-recordings': 'the phone takes no recordings from outside',
    },
  },
}
