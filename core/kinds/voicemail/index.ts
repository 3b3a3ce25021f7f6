import { isSound } from '../../formats/sniff.ts'
import { oneFileKind, type OneFile } from '../one-file/index.ts'
import { endingOf, momentInName } from '../one-file/names.ts'
import { voicemailFace } from './face.ts'

const callerOf = ({ says, name, isPlaced }: OneFile) => says.caller ?? (isPlaced ? name : 'No number')

/** Messages somebody left, as far as the phone has loaded them: who, when, and whether they were heard. */
export const voicemail = oneFileKind({
  face: voicemailFace,
  tag: 'voicemail',
  title: 'Voicemail',
  isOne: { by: ({ type }) => isSound(type) || type === 'video/3gpp', rule: 'no-sound' },
  content: ['caller', 'heard', 'script'],
  isDated: true,
  isPlayed: true,
  hasLength: true,
  placedName: (file) => `Voicemail ${momentInName(file.atMs)} ${callerOf(file)}${endingOf(file)}`,
  titleOf: callerOf,
  groupOf: () => '',
  linesOf: ({ says }) => [['script', says.script ?? '']],
  marksOf: ({ says, isPlaced }) => ({ unheard: !isPlaced && says.heard === undefined }),
  page: { by: 'time', says: ({ says }) => says.caller ?? '' },
  sampleOf: { '': { type: 'audio/amr', codecs: ['amr'] } },
  sampleSays: { caller: '+447700900001', heard: 'yes', script: 'a' },
  leftByDefault: ['deleted'],
})
