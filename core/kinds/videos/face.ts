import { marks, type KindFace } from '../face.ts'
import { filesFace, mostOnCard } from '../one-file/face.ts'

export const videosFace: KindFace = {
  ...filesFace({
    code: 'videos',
    orrin: { keeps: ['favourite', 'hidden', 'slow'], albums: 'folders' },
    tamsel: { keeps: [], albums: 'folders', mostBytes: mostOnCard },
    veyra: { keeps: ['favourite', 'hidden', 'slow'], albums: 'own' },
    holt: { cannot: 'no-place-for-videos' },
    changes: {
      android: [
        { code: 'albums-one-only', loss: true },
        { code: 'not-playable', loss: true },
      ],
      tamsel: [
        { code: 'not-playable', loss: true },
        { code: 'favourite-dropped', loss: true },
        { code: 'slow-becomes-plain', loss: true },
      ],
      ios: [{ code: 'not-playable', loss: true }],
    },
    facets: {
      ...marks('video', ['slow', 'favourite', 'hidden', 'cloud', 'damaged', 'turned', 'placed']),
      'video-timed': { figure: 'seconds', moreThan: 0, isCommon: true },
      'video-long': { figure: 'seconds', moreThan: 600 },
      'video-large': { fromBytes: 1_000_000_000 },
    },
  }),
  askedWith: 'photos',
}
