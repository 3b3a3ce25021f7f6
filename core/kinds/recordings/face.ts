import { marks } from '../face.ts'
import { filesFace } from '../one-file/face.ts'

export const recordingsFace = filesFace({
  code: 'recordings',
  permission: 'sound recordings',
  orrin: { keeps: ['title'], folders: true },
  tamsel: { keeps: [], placed: 'files', plainNames: true },
  // nobody but its own recorder may put one there
  veyra: { keeps: [], placed: 'files' },
  holt: { cannot: 'no-place-for-recordings' },
  changes: {
    tamsel: [{ code: 'placed-in-files', loss: false }],
    ios: [{ code: 'placed-in-files', loss: false }],
  },
  facets: {
    ...marks('recording', ['cloud', 'damaged', 'apart']),
    'recording-timed': { figure: 'seconds', moreThan: 0, isCommon: true },
    'recording-long': { figure: 'seconds', moreThan: 600 },
  },
})
