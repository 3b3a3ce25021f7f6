import { numbers } from '../../demo/draw.ts'
import { typeOfMedia, type MediaRecipe } from '../../files/media.ts'
import { fileKindOnPhones, type FileWish, type FileWay } from '../one-file/index.ts'

const lastDay = Date.UTC(2026, 10, 14, 9, 30)

function* left(
  { seed, count, style = 'plain' }: { seed: number; count: number; style?: 'traps' | 'plain' },
  way: FileWay,
): Generator<FileWish> {
  const next = numbers(seed)
  const one = (i: number, caller: string | undefined, more: Partial<FileWish> = {}): FileWish => {
    const media: MediaRecipe = way.lists?.includes('script')
      ? { as: 'm4a', seconds: 5 + Math.floor(next() * 40), audio: 'samr', salt: seed * 1000 + i }
      : { as: 'amr', seconds: 2 + Math.floor(next() * 8), salt: seed * 1000 + i }
    return {
      name: `vm-${i + 1}.${media.as}`,
      recipe: { media },
      type: typeOfMedia(media),
      atMs: lastDay - i * 7 * 3_600_000,
      stored: { says: { ...(caller ? { caller } : {}), ...(i % 3 ? { heard: 'yes' } : {}) } },
      ...more,
    }
  }
  for (let i = 0; i < count; i++) yield one(i, `+4477009${String(100 + (i % 60)).padStart(5, '0')}`)
  if (style === 'plain') return
  // nobody's number, only its entry is loaded, deleted, written out by the phone, and one that can't be read
  yield one(200, undefined)
  yield one(201, '+442079460012', { stored: { cloud: true, says: { caller: '+442079460012' } } })
  yield one(202, '+442079460013', { storage: 'deleted' })
  yield one(203, '+442079460014', {
    stored: { says: { caller: '+442079460014', heard: 'yes', script: 'Please call the harbour office back.' } },
  })
  yield one(204, '+442079460015', { damage: 'storage-error' })
}

const apart = { keeps: [], apartIn: 'Voicemail', plainNames: true } as const

/** Messages somebody left: held by the network, so only what was loaded is on the phone, and nobody puts one there. */
export const voicemail = fileKindOnPhones({
  code: 'voicemail',
  isAsked: true,
  isDated: true,
  folder: 'Voicemail inbox',
  ways: {
    orrin: { ...apart, time: 'ms', lists: ['caller', 'heard'] },
    tamsel: { ...apart, time: 'seconds', lists: ['caller'], saysUnheard: true },
    veyra: { ...apart, time: 'offset', lists: ['caller', 'heard', 'script'] },
    holt: { time: 'ms', keeps: [], hasNone: true },
  },
  files: left,
})
