import { marks } from '../face.ts'
import { filesFace } from '../one-file/face.ts'

export const musicFace = filesFace({
  code: 'music',
  permission: 'music and audio',
  orrin: { keeps: ['podcast'] },
  tamsel: { keeps: [] },
  veyra: { keeps: ['podcast'] },
  holt: { cannot: 'no-place-for-music' },
  changes: {
    tamsel: [{ code: 'not-playable', loss: true }],
    ios: [{ code: 'not-playable', loss: true }],
  },
  facets: {
    ...marks('music', ['podcast', 'locked', 'untitled', 'cloud']),
    'music-timed': { figure: 'seconds', moreThan: 0, isCommon: true },
    'music-large': { fromBytes: 50_000_000 },
  },
})
