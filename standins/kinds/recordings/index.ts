import { numbers } from '../../demo/draw.ts'
import { typeOfMedia, type MediaRecipe } from '../../files/media.ts'
import { fileKindOnPhones, type FileWish, type FileWay } from '../one-file/index.ts'

const lastDay = Date.UTC(2026, 10, 12, 18)

function* made(
  { seed, count, style = 'plain' }: { seed: number; count: number; style?: 'traps' | 'plain' },
  way: FileWay,
): Generator<FileWish> {
  const next = numbers(seed)
  const asOf = way.lists ? 'm4a' : 'amr'
  const media = (seconds: number, salt: number): MediaRecipe =>
    asOf === 'm4a' ? { as: 'm4a', seconds, audio: 'mp4a', salt } : { as: 'amr', seconds: Math.min(seconds, 20), salt }
  const one = (i: number, title: string, wish: Partial<FileWish> = {}): FileWish => {
    const recipe = media(10 + Math.floor(next() * 300), seed * 1000 + i)
    return {
      name: `REC_${String(i + 1).padStart(4, '0')}.${recipe.as}`,
      recipe: { media: recipe },
      type: typeOfMedia(recipe),
      atMs: Math.floor((lastDay - i * 50 * 3_600_000) / 1000) * 1000,
      stored: { says: { title } },
      ...wish,
    }
  }
  for (let i = 0; i < count; i++) yield one(i, `Choir practice ${i + 1}`)
  if (style === 'plain') return
  // two of one title, one with signs no file system takes, one trimmed, one without a title, one deleted
  yield one(100, 'Choir practice 1')
  yield one(101, 'Tide: 04/11 “low”?')
  yield one(102, 'Trimmed')
  yield one(103, '', { stored: { says: {} } })
  yield one(104, 'Deleted', { storage: 'deleted' })
  yield one(105, 'In a folder', { stored: { folder: 'Recordings/Interviews', says: { title: 'In a folder' } } })
  yield one(106, 'Empty', { recipe: { empty: true } })
  yield one(107, 'Dead', { damage: 'storage-error' })
}

/** Sound recordings: title and date stand in the recorder's list. */
export const recordings = fileKindOnPhones({
  code: 'recordings',
  isAsked: true,
  isDated: true,
  folder: 'Recordings',
  ways: {
    orrin: { time: 'ms', keeps: ['title'], lists: ['title'] },
    // a recorder that knows no titles: what comes stands in a folder
    tamsel: { time: 'seconds', keeps: [], apartIn: 'Recordings', plainNames: true },
    veyra: { time: 'offset', keeps: [], lists: ['title'], apartIn: 'Recordings' },
    holt: { time: 'ms', keeps: [] },
  },
  files: made,
})
