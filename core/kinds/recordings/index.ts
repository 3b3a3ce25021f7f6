import { isSound } from '../../formats/sniff.ts'
import { oneFileKind, type OneFile } from '../one-file/index.ts'
import { endingOf } from '../one-file/names.ts'
import { recordingsFace } from './face.ts'

const titleOf = ({ says, name }: OneFile) => says.title ?? name

/** Sound recordings: what each is called and when it was made stand in the recorder's list, not in the file. */
export const recordings = oneFileKind({
  face: recordingsFace,
  tag: 'recording',
  title: 'Recordings',
  isOne: { by: ({ type }) => isSound(type) || type === 'video/3gpp', rule: 'no-sound' },
  content: ['title'],
  isDated: true,
  writesTitle: true,
  isPlayed: true,
  hasLength: true,
  waysOut: ['no-long', 'without'],
  placedName: (file) => `${titleOf(file)}${endingOf(file, titleOf(file))}`,
  titleOf,
  groupOf: ({ folder }) => folder.slice(folder.lastIndexOf('/') + 1),
  linesOf: () => [],
  brings: ({ type }) => type === 'audio/amr',
  page: { by: 'time' },
  sampleOf: { '': { type: 'audio/mp4', codecs: ['aac'] } },
  sampleSays: { title: 'a' },
  leftByDefault: ['deleted'],
})
