import { Voicemail } from '@lucide/vue'
import { fileShapes } from '../../words/file-shapes.ts'
import type { KindPack } from '../kind-pack.ts'

export const voicemail: KindPack = {
  code: 'voicemail',
  icon: Voicemail,
  bySpan: true,
  words: {
    title: 'Voicemail',
    one: 'voicemail',
    many: 'voicemails',
    facets: {
      '': 'Any voicemail',
      'voicemail-unheard': 'Not heard yet',
      'voicemail-cloud': 'Not loaded',
      'voicemail-damaged': 'Damaged',
      'voicemail-apart': 'Among the phone’s files',
      'voicemail-timed': 'With a length',
    },
    shapes: {
      ...fileShapes,
      unheard: ['not heard', 'not heard'],
    },
    sums: { fileBytes: 'Bytes of files', seconds: 'Length in all' },
    reasons: {
      'caller-in-name': 'who left it and when stand in its file’s name',
      'heard-dropped': 'whether it was heard is left off',
      'script-dropped': 'what the phone wrote down of it is left off',
    },
  },
}
