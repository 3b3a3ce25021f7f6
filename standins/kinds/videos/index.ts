import { numbers } from '../../demo/draw.ts'
import type { MediaRecipe } from '../../files/media.ts'
import { typeOfMedia } from '../../files/media.ts'
import { fileKindOnPhones, type FileWish } from '../one-file/index.ts'

const lastDay = Date.UTC(2026, 10, 18, 15)
const oneDayMs = 86_400_000
const cameraFilm = { as: 'mp4', audio: 'mp4a', video: 'avc1', width: 1920, height: 1080 } as const

const longAtMs = lastDay - 30 * oneDayMs
/** A long film of so many bytes, made again from what it says of itself. */
export const longFilm = (seed: number, size: number): MediaRecipe => ({ ...cameraFilm, seconds: 1800, takenMs: longAtMs, salt: seed, size })

/** Films from a seed: the same seed gives the same films. Drawn by the program; places and dates are made up. */
function* films(
  {
    seed,
    count,
    style = 'plain',
    film,
    size = 0,
  }: { seed: number; count: number; style?: 'traps' | 'plain'; film?: number; size?: number },
  ownAlbums: boolean,
): Generator<FileWish> {
  const next = numbers(seed)
  let n = 0
  const one = (wish: Omit<FileWish, 'recipe' | 'type' | 'name'> & { media: MediaRecipe; name?: string; type?: string }): FileWish => {
    const { media, name, type, ...rest } = wish
    return { ...rest, name: name ?? `VID_${String(++n).padStart(4, '0')}.${media.as}`, type: type ?? typeOfMedia(media), recipe: { media } }
  }
  const inAlbum = (album: string) => (ownAlbums ? { albums: [album] } : { folder: `Movies/${album}` })
  for (let i = 0; i < count; i++) {
    const atMs = Math.floor((lastDay - i * 40 * 3_600_000 - next() * 3_600_000) / 1000) * 1000
    const seconds = Math.round(4 + next() * (next() < 0.1 ? 1500 : 80))
    yield one({
      atMs,
      media: {
        ...cameraFilm,
        seconds,
        takenMs: atMs,
        salt: seed * 10_000 + i,
        ...(size > 0 ? { size: Math.round(size * (0.4 + 0.6 * next())) } : {}),
        ...(next() < 0.3 ? { place: [50.1 + next() / 10, -5.2 - next() / 10] as const } : {}),
      },
      stored: next() < 0.1 ? inAlbum('Regatta') : {},
    })
  }
  // one long one, of so many bytes
  if (film) yield one({ atMs: longAtMs, name: 'LONG_0001.mp4', media: longFilm(seed, film) })
  if (style === 'plain') return
  const at = lastDay - 90 * oneDayMs
  const trap = (
    i: number,
    name: string,
    media: Partial<MediaRecipe> & { as: MediaRecipe['as'] },
    stored: FileWish['stored'] = {},
    more: Partial<FileWish> = {},
  ) =>
    one({
      atMs: at + i * 60_000,
      name,
      media: {
        seconds: 9,
        salt: seed * 100 + i,
        ...(media.as === 'mkv' ? { width: 640, height: 360 } : { ...cameraFilm, takenMs: at + i * 60_000 }),
        ...media,
      } as MediaRecipe,
      stored,
      ...more,
    })
  // codecs and containers the other family can't play
  yield trap(1, 'hevc.mp4', { as: 'mp4', video: 'hvc1' })
  yield trap(2, 'newest.mp4', { as: 'mp4', video: 'av01' })
  yield trap(3, 'from a computer.mkv', { as: 'mkv' })
  yield trap(4, 'from a camera.mov', { as: 'mov', index: 'last' })
  yield trap(5, 'from the first phone.3gp', { as: '3gp', video: 's263', audio: 'samr', width: 176, height: 144 })
  // slow motion, turned, a favourite, hidden
  yield trap(6, 'slow.mp4', { as: 'mp4' }, { says: { slow: 'yes' } })
  yield trap(7, 'turned.mp4', { as: 'mp4', turned: 90 })
  yield trap(8, 'favourite.mp4', { as: 'mp4' }, { says: { favourite: 'yes' } })
  yield trap(9, 'hidden.mp4', { as: 'mp4' }, { says: { hidden: 'yes' } })
  // half-written, and one whose end was cut off
  yield trap(10, 'broke off.mp4', { as: 'mp4', index: 'none' })
  yield trap(11, 'cut.mp4', { as: 'mp4', index: 'last', size: 30_000, cutTo: 12_000 })
  yield { name: 'empty.mp4', recipe: { empty: true }, type: 'video/mp4', atMs: at + 12 * 60_000 }
  // bought: it opens with its shop's key alone
  yield trap(13, 'bought.m4v', { as: 'mp4', isProtected: true })
  // wrong ending, boxes that lie, one that is no film at all
  yield trap(14, 'really a mov.mp4', { as: 'mov' }, {}, { type: 'video/mp4' } as Partial<FileWish>)
  yield trap(15, 'lying.mp4', { as: 'mp4', lies: 'sizes' })
  yield { name: 'no film.mp4', recipe: { garbage: seed }, type: 'video/mp4', atMs: at + 16 * 60_000 }
  // the same film in two places
  for (const folder of ['DCIM/Camera', 'Download'])
    yield one({
      atMs: at + 17 * 60_000,
      name: 'twice.mp4',
      media: { ...cameraFilm, seconds: 6, salt: seed * 100 + 17, takenMs: at + 17 * 60_000 },
      stored: ownAlbums ? {} : { folder },
    })
  // the date its list shows is not the one it was made at
  yield one({
    atMs: lastDay,
    name: 'contradicted.mp4',
    media: { ...cameraFilm, seconds: 5, salt: seed * 100 + 18, takenMs: Date.UTC(2018, 3, 1, 9) },
  })
  yield trap(19, 'far away.mp4', { as: 'mp4', place: [-33.9, 18.4] })
  yield { ...trap(20, 'dead sector.mp4', { as: 'mp4' }), damage: 'storage-error' }
  yield { ...trap(21, 'deleted.mp4', { as: 'mp4' }), storage: 'deleted' }
  if (ownAlbums) for (let i = 0; i < 3; i++) yield trap(30 + i, `cloud ${i}.mov`, { as: 'mov' }, { cloud: true })
  if (ownAlbums) yield trap(34, 'two albums.mp4', { as: 'mp4' }, { albums: ['Regatta', 'Bees'] })
}

/** Films, wherever they lie. */
export const videos = fileKindOnPhones({
  code: 'videos',
  isAsked: true,
  askedAs: 'photos',
  isDated: true,
  isIndexed: true,
  folder: 'DCIM/Camera',
  ways: {
    orrin: { time: 'ms', keeps: ['favourite', 'hidden', 'slow'] },
    tamsel: { time: 'seconds', keeps: [], mostBytes: 4_294_967_295 },
    veyra: { time: 'offset', keeps: ['favourite', 'hidden', 'slow'], albums: true },
    holt: { time: 'ms', keeps: [] },
  },
  files: (request, way) => films(request, way.albums === true),
  ofDemo: (count, seed) => ({ size: 400_000, ...(count > 20 ? { film: 20_000_000 + seed * 200_000 } : {}) }),
})
