import { createRecordSplitter } from '../../formats/files/records.ts'
import { createInspector } from '../../formats/image/inspect.ts'
import { isFilm } from '../../formats/sniff.ts'
import { invariant } from '../../invariant.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { Kind } from '../kind.ts'
import { photoAtoms, photoCanonicalVersion } from './canonical.ts'
import { changePhoto, photoChanges, splitPhoto, toBeMade } from './change.ts'
import { photoFromListing } from './from-listing.ts'
import { bytesOf, shownFile, type Photo } from './model.ts'
import { fileAsRecord, fileInFolder, noteFile } from '../one-file/listing.ts'
import { listingOfPhoto } from './to-listing.ts'
import { photosOn, photosFace } from './face.ts'

export type { Photo } from './model.ts'

/** Photos, the clips that belong to them, and films among them. */
export const photos: Kind<Photo> = {
  ...photosFace,
  waysOut: ['since-year', 'no-large', 'favourites'],
  canonicalVersion: photoCanonicalVersion,
  joins: false,
  read(bytes, tools) {
    const result = photoFromListing(bytes, tools)
    return 'code' in result ? { ok: false, code: result.code } : { ok: true, item: result.photo, issues: result.issues }
  },
  atoms: photoAtoms,
  canonicalBytes: (atoms) => utf8Bytes(`photos ${photoCanonicalVersion}\n${atoms.join('\n')}`),
  matchKeys: () => [],
  change: changePhoto,
  changes: photoChanges,
  rules: ['no-place-for-photos', 'only-in-cloud', 'no-picture', 'film-not-playable', 'not-converted', 'file-is-read-only', 'not-known'],
  issues: [],
  failures: [
    'no-file-entry',
    'file-unknown',
    'picture-missing',
    'empty-file',
    'damaged-already',
    'attachment-missing',
    'stalls',
    'reads-differently',
    'storage-error',
  ],
  makes: ['converted-to-jpeg'],
  sample: (from) => {
    const { write } = photosOn(from)
    const can =
      'cannot' in write
        ? { shows: ['image/jpeg'], albums: 'folders', favourites: false, hidden: false, bursts: false, originals: false }
        : write
    const file = (role: 'picture' | 'clip' | 'original', type: string) => ({
      role,
      name: `a.${type.split('/')[1]}`,
      type,
      calledType: type,
      handle: role,
      sizeBytes: 1,
      digest: role,
    })
    return {
      files: [
        file('picture', can.shows.find((type) => type === 'image/heic') ?? 'image/jpeg'),
        file('clip', can.shows.find((type) => type === 'video/quicktime') ?? 'video/mp4'),
        ...(can.originals ? [file('original', 'image/jpeg')] : []),
      ],
      takenMs: 0,
      isDateContradicted: false,
      hasPlace: true,
      folder: 'DCIM/Camera',
      albums: can.albums === 'own' ? ['a', 'b'] : ['a'],
      isFavourite: can.favourites,
      isHidden: can.hidden,
      burst: can.bursts ? 'b' : '',
      isCloudOnly: false,
      isTurned: false,
      isDamaged: false,
      width: 4,
      height: 3,
    }
  },
  write(photo, to) {
    const { write } = photosOn(to)
    invariant(!('cannot' in write), 'only a phone that takes photos is written to')
    return listingOfPhoto(photo, write)
  },
  split(photo, to) {
    const { write } = photosOn(to)
    return 'cannot' in write ? [photo] : splitPhoto(photo, write)
  },
  shown(photo) {
    const { handle, type } = shownFile(photo)
    return photo.isCloudOnly || isFilm(type) ? undefined : { handle, by: 'bytes' }
  },
  filesOf: (photo) => (photo.isCloudOnly ? [] : photo.files),
  noteFiles: noteFile,
  inspector: createInspector,
  withHandles: (photo, handles) => ({
    ...photo,
    files: photo.files.map((file) => ({ ...file, handle: handles.get(file.handle) ?? file.handle })),
  }),
  conversions: (photo) =>
    photo.files.flatMap(({ handle, type, digest }) =>
      digest.startsWith(toBeMade) ? [{ handle, digest: digest.slice(toBeMade.length), toType: type }] : [],
    ),
  withMade: (photo, made) => ({
    ...photo,
    files: photo.files.map((file) => {
      const is = made.get(file.handle)
      return is ? { ...file, digest: is.digest, sizeBytes: is.sizeBytes } : file
    }),
  }),
  sizeBytes: bytesOf,
  archive: {
    file: 'Photos.xml',
    page: { title: 'Photos', by: 'year' },
    head: '<?xml version="1.0" encoding="UTF-8"?>\r\n<folder-listing version="1.0">\r\n',
    tail: '</folder-listing>\r\n',
    // whatever its owner has of it goes along, also what is no picture
    form: (photo) => (photo.isCloudOnly ? { cannot: 'only-in-cloud' } : { item: photo, changes: [] }),
    write: (_, { record, paths }) => fileInFolder('photo', record, paths),
    splitter: () => createRecordSplitter((line) => (line === '<photo>' ? 'begins' : line === '</photo>' ? 'ends' : 'goes-on')),
    brought: {
      begins: (head) => head.startsWith('<?xml') && head.includes('<folder-listing') && head.includes('<photo>'),
      recordOf: ({ path, type, sizeBytes, modifiedMs }) =>
        type.startsWith('image/') ? fileAsRecord('photo', { path, type, sizeBytes, modifiedMs }) : undefined,
    },
    placeOf({ files, takenMs }, { handle }) {
      const year = takenMs === null ? 'Without a date' : String(new Date(takenMs).getUTCFullYear())
      return { folder: `Photos/${year}`, name: files.find((file) => file.handle === handle)!.name, atMs: takenMs }
    },
  },
  describe(photo) {
    const { files, folder, albums } = photo
    const lines = [
      ['folder', folder],
      ...albums.map((name) => ['album', name] as const),
      ...files.map(({ name, role }) => [role === 'picture' ? 'name' : role, name] as const),
    ] as const
    return {
      title: shownFile(photo).name,
      group: albumOf(photo),
      lines: lines.filter(([, text]) => text).map(([field, text]) => ({ field, text })),
    }
  },
  shape(photo) {
    const { files, width, height } = photo
    const shown = shownFile(photo)
    const shape: Record<string, number> = { files: photo.isCloudOnly ? 0 : files.length, fileBytes: bytesOf(photo) }
    if (width && height) Object.assign(shape, { width, height })
    const marks = {
      film: isFilm(shown.type),
      moving: files.some(({ role }) => role === 'clip'),
      edited: files.some(({ role }) => role === 'original'),
      favourite: photo.isFavourite,
      hidden: photo.isHidden,
      burst: photo.burst !== '',
      cloud: photo.isCloudOnly,
      turned: photo.isTurned,
      damaged: photo.isDamaged,
      placed: photo.hasPlace,
      heic: shown.type === 'image/heic',
    }
    for (const [name, is] of Object.entries(marks)) if (is) shape[name] = 1
    return shape
  },
  figures: ['files', 'fileBytes'],
  at: (photo) => photo.takenMs,
  slice: albumOf,
  leftByDefault: ['deleted'],
}

/** What it is counted together with: the first of its albums, or the camera's own folder. */
function albumOf({ albums, folder }: Photo): string {
  return albums[0] ?? (folder.slice(folder.lastIndexOf('/') + 1) || 'Camera')
}
