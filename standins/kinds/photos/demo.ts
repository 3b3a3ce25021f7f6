import { numbers } from '../../demo/draw.ts'
import { makeFile, sizeOf, typeOfSeed, type Recipe } from '../../files/files.ts'
import type { PhotoFile, PhotoWay, StoredPhoto } from './listing.ts'
import { lookInto } from './look.ts'

export interface PhotosRequest {
  readonly seed: number
  readonly count: number
  readonly style?: 'traps' | 'plain'
  /** Bytes of one large picture besides. */
  readonly large?: number
  /** Bytes a camera's picture has at the most beside what is drawn; none unless said. */
  readonly pad?: number
}

export interface PhotoOnPhone {
  readonly stored: StoredPhoto
  readonly storage?: string
  readonly damage?: string
  readonly recipes: readonly { readonly handle: string; readonly recipe: Recipe; readonly sizeBytes: number }[]
}

const lastDay = Date.UTC(2026, 10, 18, 16)
const oneDayMs = 86_400_000
const camera = ['lighthouse.jpg', 'harbour.jpg', 'hive.jpg', 'choir.jpg', 'tall.jpg']
const albums = ['Regatta', 'Choir, alto & tenor', 'Bees']
/** Exif's own way of writing a date, at the camera's clock: here UTC, and it notes so. */
const noted = (ms: number) => new Date(ms).toISOString().slice(0, 19).replace(/-/g, ':').replace('T', ' ')

interface Wish {
  readonly from: string
  readonly atMs: number
  readonly name?: string
  readonly notes?: Partial<Extract<Recipe, { from: string }>['notes']> | null
  readonly thumbnail?: boolean
  readonly stored?: Partial<StoredPhoto>
  readonly more?: readonly { role: PhotoFile['role']; recipe: Recipe; name: string; type: string }[]
  readonly recipe?: Recipe
  readonly type?: string
  readonly salt?: number
}

/** Photos from a seed: the same seed gives the same photos. Drawn by the program; places and dates are made up. */
export function* photosOf({ seed, count, style = 'plain', pad = 0, large }: PhotosRequest, way: PhotoWay): Generator<PhotoOnPhone> {
  const next = numbers(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  let n = 0
  const photo = ({ from, atMs, name, notes, thumbnail, stored, more = [], recipe, type, salt }: Wish): PhotoOnPhone => {
    const i = ++n
    const made: Recipe = recipe ?? {
      from,
      salt: salt ?? seed * 100_000 + i,
      ...(notes === null ? {} : { notes: { taken: noted(atMs), offset: '+00:00', ...notes } }),
      ...(thumbnail === false || !from.endsWith('.jpg') || from === 'tall.jpg' ? {} : { thumbnail: true }),
      ...(pad > 0 && from.endsWith('.jpg') ? { pad: Math.floor(pad * (0.3 + 0.7 * next())) } : {}),
    }
    const all = [
      {
        role: 'picture' as const,
        recipe: made,
        name: name ?? `IMG_${String(i).padStart(4, '0')}.${from.split('.')[1]}`,
        type: type ?? typeOfSeed(from),
      },
      ...more,
    ]
    const recipes = all.map((file, at) => {
      const handle = `o${seed}-${i}-${at}`
      return { handle, recipe: file.recipe, sizeBytes: sizeOf(file.recipe) }
    })
    const looked = 'generated' in made ? undefined : lookInto(makeFile(made))
    return {
      stored: {
        folder: 'DCIM/Camera',
        takenMs: looked?.takenMs ?? atMs,
        changedMs: atMs,
        place: looked?.place ? [...looked.place] : null,
        favourite: false,
        hidden: false,
        burst: '',
        albums: [],
        cloud: false,
        width: looked?.width ?? 0,
        height: looked?.height ?? 0,
        ...stored,
        files: all.map(({ role, name: fileName, type: fileType }, at) => ({
          role,
          name: fileName,
          type: fileType,
          handle: recipes[at]!.handle,
          size: recipes[at]!.sizeBytes,
        })),
      },
      recipes,
    }
  }
  const inAlbum = (album: string): Partial<StoredPhoto> => (way.albums ? { albums: [album] } : { folder: `Pictures/${album}` })
  const everyMs = Math.min(9 * 3_600_000, (7 * 365 * oneDayMs) / Math.max(1, count))
  for (let i = 0; i < count; i++) {
    const atMs = Math.floor((lastDay - i * everyMs - next() * everyMs) / 1000) * 1000
    const dice = next()
    const from =
      dice < 0.1 && way.takes.includes('image/heic')
        ? 'lighthouse.heic'
        : dice < 0.14
          ? 'screen.png'
          : dice < 0.17
            ? 'tall.jpg'
            : pick(camera)
    yield photo({
      from,
      atMs,
      notes: from.endsWith('.jpg') && next() < 0.5 ? { place: [50.1 + next(), -5 - next()] } : {},
      stored: { ...(next() < 0.1 ? inAlbum(pick(albums)) : {}), ...(way.favourites && next() < 0.06 ? { favourite: true } : {}) },
      ...(from === 'screen.png' ? { name: `Screenshot_${i + 1}.png` } : {}),
    })
  }
  if (large)
    yield photo({
      from: 'hive.jpg',
      atMs: lastDay - 30 * oneDayMs,
      name: 'LARGE_0001.jpg',
      recipe: { from: 'hive.jpg', salt: seed, notes: { taken: noted(lastDay - 30 * oneDayMs), offset: '+00:00' }, pad: large },
    })
  if (style === 'plain') return
  const at = lastDay - 60 * oneDayMs
  // the same name in different folders
  yield photo({ from: 'hive.jpg', atMs: at, name: 'IMG_7001.jpg' })
  yield photo({ from: 'hive.jpg', atMs: at + 60_000, name: 'IMG_7001.jpg', stored: inAlbum('Bees') })
  // moving photos: picture and clip
  for (const [i, from] of ['harbour.jpg', 'lighthouse.jpg', 'choir.jpg'].entries()) {
    yield photo({
      from,
      atMs: at + (i + 2) * 60_000,
      name: `MOVING_${i + 1}.jpg`,
      more: [
        {
          role: 'clip',
          recipe: { from: 'motion.mp4', salt: seed * 10 + i, notes: { taken: noted(at + (i + 2) * 60_000) } },
          name: `MOVING_${i + 1}.mp4`,
          type: 'video/mp4',
        },
      ],
    })
  }
  // an edited pair: one photo with its original behind it, or two photos, as the phone has it
  const original = {
    role: 'original' as const,
    recipe: { from: 'choir.jpg', salt: seed * 10 + 5, notes: { taken: noted(at + 600_000), offset: '+00:00' } } satisfies Recipe,
    name: 'EDIT_1_original.jpg',
    type: 'image/jpeg',
  }
  if (way.originals) yield photo({ from: 'hive.jpg', atMs: at + 600_000, name: 'EDIT_1.jpg', more: [original] })
  else {
    yield photo({ from: 'choir.jpg', atMs: at + 600_000, name: 'EDIT_1.jpg', recipe: original.recipe })
    yield photo({ from: 'hive.jpg', atMs: at + 600_000, name: 'EDIT_1_edited.jpg' })
  }
  // a burst of five in one second
  for (let i = 0; i < 5; i++)
    yield photo({ from: 'harbour.jpg', atMs: at + 700_000, name: `BURST_${i + 1}.jpg`, stored: way.bursts ? { burst: `b${seed}` } : {} })
  if (way.hidden) for (let i = 0; i < 3; i++) yield photo({ from: 'choir.jpg', atMs: at + 800_000 + i * 1000, stored: { hidden: true } })
  for (let i = 0; i < 2; i++) yield { ...photo({ from: 'tall.jpg', atMs: at + 810_000 + i * 1000 }), storage: 'deleted' }
  // only in the cloud: a small picture is here, the whole is not
  if (way.albums)
    for (let i = 0; i < 12; i++)
      yield { ...photo({ from: 'lighthouse.jpg', atMs: at + 900_000 + i * 60_000, stored: { cloud: true } }), recipes: [] }
  // byte-identical copies, in two folders
  for (const folder of ['DCIM/Camera', 'Download'])
    yield photo({
      from: 'harbour.jpg',
      atMs: at + 1_000_000,
      name: folder === 'Download' ? 'harbour copy.jpg' : 'HARBOUR.jpg',
      salt: seed * 10 + 7,
      notes: {},
      stored: way.albums ? {} : { folder },
    })
  // two albums at once
  if (way.albums) yield photo({ from: 'hive.jpg', atMs: at + 1_100_000, stored: { albums: [...albums] } })
  // dates: none noted in the file; noted and contradicted by the file's own time; before 1990; far to the east
  yield photo({ from: 'hive.jpg', atMs: at + 1_200_000, name: 'no date.jpg', notes: null })
  yield photo({ from: 'screen.png', atMs: at + 1_210_000, name: 'Screenshot no date.png' })
  yield photo({ from: 'choir.jpg', atMs: Date.UTC(2019, 5, 3, 10), name: 'contradicted.jpg', stored: { changedMs: lastDay } })
  yield photo({ from: 'choir.jpg', atMs: Date.UTC(1987, 7, 1, 9), name: 'scan.jpg', stored: { changedMs: lastDay } })
  yield photo({
    from: 'choir.jpg',
    atMs: at + 1_220_000,
    name: 'east.jpg',
    notes: { taken: noted(at + 1_220_000 + 9 * 3_600_000), offset: '+09:00', place: [35.6, 139.7] },
  })
  yield photo({
    from: 'choir.jpg',
    atMs: Date.UTC(2026, 6, 9, 11),
    name: 'summer.jpg',
    notes: { taken: noted(Date.UTC(2026, 6, 9, 12)), offset: undefined as never, place: [-33.9, 18.4] },
  })
  // turned: by its Exif, and by container and Exif at once
  yield photo({ from: 'lighthouse.jpg', atMs: at + 1_300_000, name: 'turned.jpg', notes: { orientation: 6 } })
  if (way.takes.includes('image/heic')) yield photo({ from: 'turned.heic', atMs: at + 1_310_000, name: 'TURNED.HEIC' })
  if (way.takes.includes('image/webp')) yield photo({ from: 'tide.webp', atMs: at + 1_320_000, name: 'tide.webp' })
  yield photo({ from: 'wave.gif', atMs: at + 1_330_000, name: 'wave.gif' })
  // wrong extensions, one empty, one damaged, one that is no picture at all
  yield photo({ from: 'screen.png', atMs: at + 1_400_000, name: 'really a png.jpg', type: 'image/jpeg' })
  if (way.takes.includes('image/heic'))
    yield photo({ from: 'lighthouse.heic', atMs: at + 1_410_000, name: 'really heic.jpg', type: 'image/jpeg' })
  yield photo({ from: 'hive.jpg', atMs: at + 1_420_000, name: 'empty.jpg', recipe: { empty: true } })
  yield photo({
    from: 'hive.jpg',
    atMs: at + 1_430_000,
    name: 'damaged.jpg',
    recipe: { from: 'hive.jpg', salt: seed * 10 + 8, notes: { taken: noted(at + 1_430_000), offset: '+00:00' }, cutTo: 1700 },
  })
  yield photo({ from: 'hive.jpg', atMs: at + 1_440_000, name: 'no picture.jpg', recipe: { garbage: seed } })
  yield { ...photo({ from: 'hive.jpg', atMs: at + 1_450_000, name: 'dead sector.jpg' }), damage: 'storage-error' }
  // odd names
  yield photo({ from: 'choir.jpg', atMs: at + 1_460_000, name: 'Größe & <Ångström> "quay" 山.jpg' })
}
