import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { givePhoto, photoWays, takePhoto, type StoredPhoto } from '../../../standins/kinds/photos/listing.ts'
import { findModel } from '../../phones/models.ts'
import { createInstantReader } from '../../text/zone.ts'
import type { ReadTools } from '../kind.ts'
import { photos } from './index.ts'
import type { Photo } from './model.ts'

const tools = { instant: createInstantReader('Europe/London'), number: (text: string) => text, hash: () => '', nowMs: 0 } as ReadTools
const model = (name: string) =>
  findModel({
    maker: name.split(' ')[0]!,
    model: name,
    platform: name.startsWith('Veyra') ? 'ios' : name.startsWith('Holt') ? 'keypad' : 'android',
  })
const takenMs = Date.UTC(2026, 6, 9, 11)
const stored = (change: Partial<StoredPhoto> = {}): StoredPhoto => ({
  folder: 'DCIM/Camera',
  takenMs,
  changedMs: takenMs,
  place: [50.1, -5.2],
  favourite: false,
  hidden: false,
  burst: '',
  albums: [],
  cloud: false,
  width: 4000,
  height: 3000,
  files: [{ role: 'picture', name: 'IMG_1.jpg', type: 'image/jpeg', handle: 'h1', size: 2_000_000 }],
  ...change,
})
const read = (bytes: Uint8Array): Photo => {
  const result = photos.read(bytes, tools)
  if (!result.ok) throw new Error(result.code)
  return result.item
}
const noted = (bytes: Uint8Array, digest = 'd1') => photos.noteFiles!(bytes, new Map([['h1', { digest, sizeBytes: 2_000_000 }]]))
const change = (photo: Photo, to: string) => {
  const changed = photos.change(photo, model(to))
  if ('cannot' in changed) throw new Error(changed.cannot)
  return changed
}

describe('reading photos from every maker’s listing', () => {
  it.each(['orrin', 'tamsel', 'veyra', 'holt'] as const)(
    '%s: the same photo says the same, whichever clock and counter it is told by',
    (maker) => {
      const photo = read(givePhoto(stored(), photoWays[maker]))
      expect(photo).toMatchObject({ takenMs, width: 4000, hasPlace: true, isCloudOnly: false, albums: [] })
      expect(photos.atoms(photo, tools)).toEqual(photos.atoms(read(givePhoto(stored(), photoWays.orrin)), tools))
    },
  )
  it('a folder beside the camera’s own is an album, in any case', () => {
    expect(read(givePhoto(stored({ folder: 'Pictures/Regatta' }), photoWays.orrin)).albums).toEqual(['Regatta'])
    expect(read(givePhoto(stored({ folder: 'Pictures/Regatta' }), photoWays.tamsel)).albums).toEqual(['REGATTA'])
    expect(photos.atoms(read(givePhoto(stored({ folder: 'Pictures/Regatta' }), photoWays.tamsel)), tools)).toEqual(
      photos.atoms(read(givePhoto(stored({ albums: ['Regatta'] }), photoWays.veyra)), tools),
    )
    expect(read(givePhoto(stored({ folder: 'DCIM/100VEYRA' }), photoWays.orrin)).albums).toEqual([])
  })
  it('what the file says goes before what the phone lists, and the difference is named', () => {
    const bytes = photos.noteFiles!(
      givePhoto(stored({ takenMs: Date.UTC(2026, 10, 1) }), photoWays.orrin),
      new Map([
        [
          'h1',
          {
            digest: 'd',
            sizeBytes: 5,
            facts: {
              type: 'image/png',
              taken: { year: 2019, month: 6, day: 3, hour: 10, minute: 0, second: 0 },
              offsetMinutes: 120,
              place: undefined,
              orientation: 1,
              isDamaged: true,
            },
          },
        ],
      ]),
    )
    const photo = read(bytes)
    expect(photo).toMatchObject({ takenMs: Date.UTC(2019, 5, 3, 8), isDateContradicted: true, isDamaged: true })
    expect(photo.files[0]).toMatchObject({ type: 'image/png', calledType: 'image/jpeg', sizeBytes: 5, digest: 'd' })
  })
  it.each([
    ['no file line', 'album only', 'no-file-entry'],
    ['a role nobody knows', '<file name="a" size="1" x_role="poster"/>\r\n', 'file-unknown'],
    ['no picture among its files', '<file name="a" size="1" x_role="clip" x_handle="h"/>\r\n', 'picture-missing'],
    ['a file of no bytes', '<file name="a" size="0" type="image/jpeg" x_role="picture" x_handle="h"/>\r\n', 'empty-file'],
    ['thousands of files', '<file name="a" size="1"/>\r\n'.repeat(60), 'no-file-entry'],
  ])('%s is one unreadable item with its reason', (_, text, code) => {
    expect(photos.read(Buffer.from(text), tools)).toEqual({ ok: false, code })
  })
  it('never throws on what a line holds', () => {
    const whole = givePhoto(stored({ albums: ['a', 'b'] }), photoWays.veyra)
    fc.assert(
      fc.property(
        fc.nat(whole.length),
        fc.uint8Array({ maxLength: 12 }),
        (at, more) => void photos.read(Buffer.concat([whole.subarray(0, at), more, whole.subarray(at)]), tools),
      ),
      { numRuns: 500, seed: 3 },
    )
  })
})

describe('what changes on the way', () => {
  const heic = (photo: StoredPhoto) => ({ ...photo, files: [{ ...photo.files[0]!, name: 'IMG_1.HEIC', type: 'image/heic' }] })
  it.each<[string, Partial<StoredPhoto>, string, string[]]>([
    ['a plain JPEG crosses as it is', {}, 'Veyra 12', []],
    ['a favourite to a phone without', { favourite: true }, 'Tamsel M2', ['favourite-dropped']],
    ['a hidden one to a phone that hides none', { hidden: true }, 'Tamsel M2', ['hidden-becomes-visible']],
    ['one of a burst', { burst: 'b' }, 'Tamsel M2', ['burst-apart']],
    ['in several albums to folders', { albums: ['a', 'b'] }, 'Orrin 9', ['albums-one-only']],
    ['in several albums to albums', { albums: ['a', 'b'] }, 'Veyra 14', []],
    [
      'a name with another ending',
      { files: [{ role: 'picture', name: 'a.png', type: 'image/jpeg', handle: 'h1', size: 9 }] },
      'Veyra 14',
      ['extension-corrected'],
    ],
  ])('%s', (_, wish, to, codes) => {
    expect(
      change(read(noted(givePhoto(stored(wish), photoWays.veyra))), to)
        .changes.map((c) => c.code)
        .sort(),
    ).toEqual(codes)
  })
  it('a format the phone can’t show is made into JPEG at its turn, and its forecast is no final digest', () => {
    const { item, changes } = change(read(noted(givePhoto(heic(stored()), photoWays.orrin))), 'Tamsel M2')
    expect(changes).toEqual([{ code: 'converted-to-jpeg', loss: true }])
    expect(photos.conversions!(item)).toEqual([{ handle: 'h1', digest: 'd1', toType: 'image/jpeg' }])
    const made = photos.withMade!(item, new Map([['h1', { digest: 'jpeg', sizeBytes: 5_000_000 }]]))
    expect([photos.sizeBytes!(made), photos.conversions!(made), made.files[0]!.name]).toEqual([5_000_000, [], 'IMG_1.jpg'])
    expect(photos.atoms(made, tools)).not.toEqual(photos.atoms(item, tools))
  })
  it.each([
    ['only in the cloud', { cloud: true }, 'Veyra 12', 'only-in-cloud'],
    [
      'no picture at all',
      { files: [{ role: 'picture', name: 'a.jpg', type: 'application/octet-stream', handle: 'h1', size: 3 }] },
      'Veyra 12',
      'no-picture',
    ],
    [
      'a film the phone can’t play',
      { files: [{ role: 'picture', name: 'a.mov', type: 'video/quicktime', handle: 'h1', size: 3 }] },
      'Orrin 9',
      'film-not-playable',
    ],
    ['any to a keypad phone', {}, 'Holt 3', 'no-place-for-photos'],
  ] as [string, Partial<StoredPhoto>, string, string][])('%s can’t cross, by rule', (_, wish, to, rule) => {
    expect(photos.change(read(noted(givePhoto(stored(wish), photoWays.veyra))), model(to))).toEqual({ cannot: rule })
  })
  it('a moving half the phone can’t play is left off and named; the picture crosses', () => {
    const moving = stored({
      files: [stored().files[0]!, { role: 'clip', name: 'IMG_1.mov', type: 'video/quicktime', handle: 'h2', size: 400 }],
    })
    const { item, changes } = change(read(noted(givePhoto(moving, photoWays.veyra))), 'Orrin 9')
    expect([item.files.length, changes.map((c) => c.code)]).toEqual([1, ['clip-left-out']])
  })
  it('an original is kept behind, or becomes a photo of its own: a part of the item, not another item', () => {
    const edited = read(
      noted(
        givePhoto(
          stored({
            favourite: true,
            files: [stored().files[0]!, { role: 'original', name: 'o.jpg', type: 'image/jpeg', handle: 'h2', size: 400 }],
          }),
          photoWays.veyra,
        ),
      ),
    )
    expect(photos.split!(change(edited, 'Veyra 14').item, model('Veyra 14'))).toHaveLength(1)
    const [shown, original] = photos.split!(change(edited, 'Orrin 9').item, model('Orrin 9'))
    expect([shown!.files.map((f) => f.role), original!.files.map((f) => f.role), original!.isFavourite]).toEqual([
      ['picture'],
      ['picture'],
      false,
    ])
  })
  it('what is written is what each phone takes, and reads back as what was forecast', () => {
    for (const [to, way] of [
      ['Orrin 9', 'orrin'],
      ['Tamsel M2', 'tamsel'],
      ['Veyra 12', 'veyra'],
    ] as const) {
      const { item } = change(read(noted(givePhoto(stored({ albums: ['Regatta'], favourite: true, hidden: true }), photoWays.veyra))), to)
      const took = takePhoto(Buffer.from(photos.write(photos.withHandles!(item, new Map([['h1', 'new-1']])), model(to))), photoWays[way])
      expect(took.files[0]).toMatchObject({ handle: 'new-1', size: 2_000_000 })
      const again = read(
        noted(givePhoto({ ...took, takenMs, place: [1, 2], files: [{ ...took.files[0]!, handle: 'h1' }] }, photoWays[way])),
      )
      expect(photos.atoms(again, tools)).toEqual(photos.atoms(item, tools))
    }
  })
})
