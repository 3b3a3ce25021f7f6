import { capabilityOf, type PhoneModel } from '../../phones/capability.ts'
import { marks, type KindFace } from '../face.ts'

/** What a phone does with photos. */
export interface PhotosAbility {
  /** Types it shows or plays, by RFC 6838 name; pictures of others are converted. */
  readonly shows: readonly string[]
  /** Albums of its own, a photo in several; or a folder is an album, and a photo in one. */
  readonly albums: 'own' | 'folders'
  readonly favourites: boolean
  readonly hidden: boolean
  readonly bursts: boolean
  /** An edited photo keeps its original behind it. */
  readonly originals: boolean
}

const everyday = ['image/jpeg', 'image/png', 'image/gif', 'image/webp', 'video/mp4']
const android: PhotosAbility = {
  shows: [...everyday, 'image/heic'],
  albums: 'folders',
  favourites: true,
  hidden: true,
  bursts: true,
  originals: false,
}
const tamsel: PhotosAbility = { shows: everyday, albums: 'folders', favourites: false, hidden: false, bursts: false, originals: false }
const ios: PhotosAbility = {
  shows: ['image/jpeg', 'image/png', 'image/gif', 'image/heic', 'video/mp4', 'video/quicktime'],
  albums: 'own',
  favourites: true,
  hidden: true,
  bursts: true,
  originals: true,
}

/** What that phone does with photos. */
export const photosOn = (phone: PhoneModel) => capabilityOf<PhotosAbility>(phone, 'photos')

const noPlace = { cannot: 'no-place-for-photos' }

export const photosFace: KindFace = {
  code: 'photos',
  phones: {
    Orrin: { read: true, write: android },
    Tamsel: { read: true, write: tamsel },
    Veyra: { read: true, write: ios },
    Holt: { read: true, write: noPlace },
    File: { read: true, write: { cannot: 'file-is-read-only' } },
  },
  guides: {
    android: { read: true, write: true, changes: [{ code: 'albums-one-only', loss: true }] },
    tamsel: {
      read: true,
      write: true,
      changes: [
        { code: 'converted-to-jpeg', loss: true },
        { code: 'favourite-dropped', loss: true },
        { code: 'hidden-becomes-visible', loss: true },
      ],
    },
    ios: { read: true, write: true, changes: [{ code: 'converted-to-jpeg', loss: true }] },
    keypad: { read: true, write: noPlace, limits: { items: 200 } },
    'holt-5': { read: true, write: noPlace, limits: { items: 800 } },
  },
  facets: {
    ...marks('photo', ['film', 'moving', 'edited', 'favourite', 'hidden', 'burst', 'cloud', 'damaged', 'turned', 'placed', 'heic']),
    'photo-large': { fromBytes: 10_000_000 },
    'photo-files': { figure: 'files', moreThan: 0, isCommon: true },
  },
  needs: ['charge-ample', 'accounts-still', 'photos-whole', 'cable-fast'],
  permission: 'photos and videos',
  isMedia: true,
}
