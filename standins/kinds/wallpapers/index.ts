import { typeOfSeed, type Recipe } from '../../files/files.ts'
import { fileKindOnPhones, type FileWish, type FileWay } from '../one-file/index.ts'

const atMs = Date.UTC(2026, 3, 4, 8)

function* set(
  { seed, count, style = 'plain' }: { seed: number; count: number; style?: 'traps' | 'plain' },
  way: FileWay,
): Generator<FileWish> {
  const one = (name: string, recipe: Recipe & { from: string }, places: string): FileWish => ({
    name,
    recipe,
    type: typeOfSeed(recipe.from),
    atMs,
    stored: { says: { places } },
  })
  // one phone has one picture of each place, or one of both
  if (count > 0) yield one('lock.jpg', { from: 'lighthouse.jpg', salt: seed * 10 + 1 }, way.time === 'seconds' ? 'both' : 'lock')
  if (count > 1 && way.time !== 'seconds') yield one('home.jpg', { from: 'harbour.jpg', salt: seed * 10 + 2 }, 'home')
  if (style === 'traps') yield one('moving.mp4', { from: 'clip.mp4', salt: seed * 10 + 3 }, 'lock')
}

/** The pictures of its lock screen and its home screen. */
export const wallpapers = fileKindOnPhones({
  code: 'wallpapers',
  isAsked: false,
  folder: 'Wallpapers',
  ways: {
    orrin: { time: 'ms', keeps: ['places'] },
    tamsel: { time: 'seconds', keeps: ['places'] },
    veyra: { time: 'offset', keeps: [], lists: ['places'], apartIn: 'Wallpapers' },
    holt: { time: 'ms', keeps: [], hasNone: true },
  },
  files: set,
})
