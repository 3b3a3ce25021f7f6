import { modelOf } from '../../phones/phone.ts'
import type { StoredFile } from '../one-file/listing.ts'
import type { PhoneKind } from '../phone-kind.ts'
import { photosOf, type PhotosRequest } from './demo.ts'
import { cutPhoto, givePhoto, indexed, photoWays, takePhoto, type StoredPhoto } from './listing.ts'
import { lookInto } from './look.ts'
import { countClips } from './photos.queries.ts'

/** Moving halves, where a phone lists them once more beside their pictures. */
const clipsOf = (stored: StoredPhoto) =>
  stored.files
    .filter(({ role }) => role === 'clip')
    .map((clip) => ({
      name: clip.handle,
      stored: { ...stored, albums: [], favourite: false, files: [{ ...clip, role: 'picture' as const }] },
    }))

/** A film that was sent among photos stands among the films. */
function filmOf({ files, takenMs, changedMs, place, albums, favourite, hidden, folder }: StoredPhoto) {
  const [file] = files
  if (!file || files.length > 1 || !file.type.startsWith('video/')) return undefined
  const stored: StoredFile = {
    folder,
    name: file.name,
    type: file.type,
    handle: file.handle,
    size: file.size,
    atMs: takenMs,
    changedMs,
    place,
    albums,
    says: { ...(favourite ? { favourite: 'yes' } : {}), ...(hidden ? { hidden: 'yes' } : {}) },
    cloud: false,
    placed: false,
  }
  return { kind: 'videos', stored }
}

/** Photos, each with its files. */
export const photos: PhoneKind<StoredPhoto> = {
  code: 'photos',
  isAsked: true,
  hasFiles: true,
  on({ platform, dialect }) {
    const way = photoWays[dialect]
    return {
      give: (stored) => givePhoto(stored, way),
      take: (bytes) => takePhoto(bytes, way),
      // what it is, whatever it is called and wherever it is kept
      facts: ({ takenMs, place, favourite, hidden, albums, cloud, files }) => [
        JSON.stringify({
          taken: Math.floor(takenMs / 1000),
          place,
          favourite,
          hidden,
          albums,
          cloud,
          files: files.map(({ role, size }) => ({ role, size })),
        }),
      ],
      refuses: ({ files }) =>
        platform === 'keypad' ? 'storage-read-only' : files.every(({ type }) => way.takes.includes(type)) ? null : 'not-understood',
      at: (stored) => stored.takenMs,
      filesOf: ({ cloud, files }) => (cloud ? [] : files),
      sizeOf: ({ cloud, files }) => (cloud ? 0 : files.reduce((sum, { size }) => sum + size, 0)),
      cut: (stored) => cutPhoto(stored, way),
      filedAs: filmOf,
      async index(stored, head) {
        const looks = await Promise.all(stored.files.map(async (file) => lookInto(await head(file.handle))))
        // what it is counts, not what it is called
        const files = stored.files.map((file, i) => ({ ...file, type: looks[i]!.type ?? 'application/octet-stream' }))
        return indexed({ ...stored, files }, looks[0]!, Date.now())
      },
      ...(way.clipsApart ? { apart: clipsOf } : {}),
    }
  },
  halve: (stored) => ({ ...stored, files: stored.files.slice(0, 1), albums: [], favourite: false, place: null }),
  alter: (stored) => ({ ...stored, takenMs: stored.takenMs + 1000 }),
  redate: (stored, nowMs) => ({ ...stored, takenMs: nowMs }),
  ofDemo: (count) => (count > 100 ? { pad: Math.round(60_000_000 / count) } : {}),
  *contents({ dialect }, request) {
    for (const { stored, storage, damage, recipes } of photosOf(request as PhotosRequest, photoWays[dialect]))
      yield { stored, storage, damage, attached: recipes }
  },
  counted: async (pool, phone) => ({ more: photoWays[modelOf(phone).dialect].clipsApart ? await countClips(pool, phone.serial) : 0 }),
}
