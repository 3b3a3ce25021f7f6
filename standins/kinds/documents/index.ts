import { numbers } from '../../demo/draw.ts'
import { endingOf, typeOfMedia, type MediaRecipe } from '../../files/media.ts'
import { dialectOf, fileKindOnPhones, type FileWish, type FileWay } from '../one-file/index.ts'

const lastDay = Date.UTC(2026, 8, 9, 10)
const folders = ['Documents', 'Documents/Harbour', 'Download', 'Documents/Harbour/2025'] as const

function* kept(
  { seed, count, style = 'plain', size = 0 }: { seed: number; count: number; style?: 'traps' | 'plain'; size?: number },
  way: FileWay,
): Generator<FileWish> {
  const next = numbers(seed)
  const one = (name: string, media: MediaRecipe, folder: string, more: Partial<FileWish> = {}): FileWish => ({
    name,
    recipe: { media },
    type: typeOfMedia(media),
    atMs: lastDay - Math.floor(next() * 9e9),
    ...more,
    stored: { folder, ...more.stored },
  })
  for (let i = 0; i < count; i++) {
    const salt = seed * 1000 + i
    const media: MediaRecipe =
      i % 3 === 0
        ? { as: 'pdf', title: `Tide table ${i}`, salt, ...(size ? { size } : {}) }
        : i % 3 === 1
          ? { as: 'text', text: `Notes of the harbour office, ${salt}\n`, salt }
          : { as: 'docx', text: `Letter ${salt}`, salt }
    yield one(`paper ${i + 1}.${endingOf(media)}`, media, folders[Math.floor(next() * folders.length)]!)
  }
  if (style === 'plain') return
  const text = (what: string): MediaRecipe => ({ as: 'text', text: `${what} ${seed}\n`, salt: seed })
  // the same name with other content, in two folders and in one folder of phone and card
  yield one('list.txt', text('milk'), 'Documents')
  yield one('list.txt', text('bread'), 'Documents', { storage: 'card' })
  yield one('list.txt', text('nets'), 'Documents/Harbour')
  // a copy of one, byte for byte
  yield one('list copy.txt', text('milk'), 'Documents')
  // names a card has no signs for, and one nothing but signs
  if (!way.plainNames) {
    yield one('Tide: 04 "low"?.pdf', { as: 'pdf', title: 'a', salt: seed }, 'Documents')
    yield one('what * is <this>.txt', text('signs'), 'Documents/a: b')
  }
  yield one('Größe & <山>.txt'.replace(/[<>]/g, way.plainNames ? '' : '$&'), text('letters'), 'Documents')
  // locked, empty, of no format anybody knows, without an ending
  yield one('locked.pdf', { as: 'pdf', title: 'b', isLocked: true, salt: seed }, 'Documents')
  yield { name: 'empty.txt', recipe: { empty: true }, type: 'text/plain', atMs: lastDay, stored: { folder: 'Documents' } }
  yield { name: 'data.bin', recipe: { garbage: seed }, type: 'application/octet-stream', atMs: lastDay, stored: { folder: 'Documents' } }
  yield one('README', text('no ending'), 'Documents')
  yield one('dead sector.txt', text('dead'), 'Documents', { damage: 'storage-error' })
  yield one('only there.txt', text('cloud'), 'Documents', { stored: { cloud: true } })
}

/** What lies in folders; apps' own folders are the apps'. */
export const documents = fileKindOnPhones({
  code: 'documents',
  isAsked: true,
  hasPath: true,
  folder: '',
  ways: {
    orrin: { time: 'ms', keeps: [], plainNames: true },
    tamsel: { time: 'seconds', keeps: [], plainNames: true, mostBytes: 4_294_967_295 },
    veyra: { time: 'offset', keeps: [] },
    holt: { time: 'ms', keeps: [], hasNone: true },
  },
  files: kept,
  ofDemo: () => ({ size: 60_000 }),
  derived: (phone) => ({ appFolders: dialectOf(phone) === 'orrin' ? 37 : 0 }),
})
