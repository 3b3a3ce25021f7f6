import { marks } from '../face.ts'
import { filesFace } from '../one-file/face.ts'

/** Its network alone puts a message there: what is carried becomes a sound file among the others. */
const asFile = { keeps: [], placed: 'files', plainNames: true } as const

export const voicemailFace = filesFace({
  code: 'voicemail',
  permission: 'voicemail',
  orrin: asFile,
  tamsel: asFile,
  veyra: asFile,
  changes: {
    android: [{ code: 'placed-in-files', loss: false }],
    tamsel: [{ code: 'placed-in-files', loss: false }],
    ios: [{ code: 'placed-in-files', loss: false }],
  },
  facets: {
    ...marks('voicemail', ['unheard', 'cloud', 'damaged', 'apart']),
    'voicemail-timed': { figure: 'seconds', moreThan: 0, isCommon: true },
  },
})
