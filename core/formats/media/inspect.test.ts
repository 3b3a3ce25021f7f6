import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { makeFile } from '#standins/files/files.ts'
import { typeOfMedia, type MediaRecipe } from '#standins/files/media.ts'
import { numbers } from '#standins/demo/draw.ts'
import { isPacked, sniffType } from '../sniff.ts'
import { createMediaInspector, inspectMedia } from './inspect.ts'

const tags = { title: 'Harbour light', artist: 'The Saltmere Choir', album: 'Low tide', track: 3, year: 2021, genre: 'Choral' }
const film = { as: 'mp4', seconds: 12.5, video: 'avc1', audio: 'mp4a', width: 1920, height: 1080, salt: 1 } as const
const make = (media: MediaRecipe) => makeFile({ media })

/** One of each container phones use. */
const recipes: readonly MediaRecipe[] = [
  film,
  { ...film, as: 'mov', video: 'hvc1', turned: 90, index: 'last' },
  { ...film, as: '3gp', video: 's263', audio: 'samr', width: 176, height: 144 },
  { as: 'm4a', seconds: 200, audio: 'mp4a', tags, salt: 4 },
  { as: 'm4b', seconds: 7000, audio: 'mp4a', tags: { title: 'The ferry' }, salt: 5 },
  { as: 'mp3', seconds: 180, tags, salt: 6, size: 60_000 },
  { as: 'flac', seconds: 61, tags, salt: 7 },
  { as: 'ogg', seconds: 33, tags, salt: 8 },
  { as: 'wav', seconds: 4, salt: 9, size: 1 },
  { as: 'amr', seconds: 3, salt: 10 },
  { as: 'mkv', seconds: 90, width: 640, height: 360, salt: 11 },
  { as: 'epub', title: 'Nets & knots', author: 'Ada Oakes', salt: 12 },
  { as: 'pdf', title: 'Tide table (2026)', salt: 13, size: 9000 },
  { as: 'docx', text: 'Dear harbour', salt: 14 },
]

describe('what a file is by its own bytes', () => {
  it.each(recipes)('$as', (recipe) => expect(sniffType(make(recipe))).toBe(typeOfMedia(recipe)))

  it('text is nothing by its first bytes, and a beginning of MPEG audio that can be none is none', () => {
    expect(sniffType(Buffer.from('Dear customer'))).toBeUndefined()
    // a ZIP whose first file is a document, as it is: what stands in it is in the first bytes of both
    const inside = { docx: make({ as: 'docx', text: 'a', salt: 1 }), epub: make({ as: 'epub', title: 'a', author: 'b', salt: 1 }) }
    for (const [ending, bytes] of Object.entries(inside)) {
      const packed = zipSync({ [`paper.${ending}`]: [bytes, { level: 0 }] })
      expect([ending, isPacked(bytes), sniffType(packed), isPacked(packed)]).toEqual([ending, false, undefined, true])
    }
    expect(sniffType(Buffer.from([0xff, 0xff, 0xff, 0xff]))).toBeUndefined()
    expect(sniffType(Buffer.from([0xff, 0xfb, 0x90, 0x64]))).toBe('audio/mpeg')
    expect(sniffType(Buffer.from([0xff, 0xf1, 0x50, 0x80]))).toBe('audio/aac')
  })
})

describe('facts of a film or a sound', () => {
  it('length, codecs, size, time, place and turning of a film, wherever its index stands', async () => {
    const takenMs = Date.UTC(2024, 5, 1, 10, 30)
    for (const index of [undefined, 'last'] as const) {
      const facts = await inspectMedia(make({ ...film, ...(index ? { index } : {}), takenMs, place: [50.1, -5.25], turned: 90 }))
      expect(facts).toMatchObject({
        type: 'video/mp4',
        durationMs: 12_500,
        codecs: ['h264', 'aac'],
        width: 1920,
        height: 1080,
        orientation: 6,
        taken: { year: 2024, month: 6, day: 1, hour: 10, minute: 30 },
        offsetMinutes: 0,
        place: { latitude: 50.1, longitude: -5.25 },
        isProtected: false,
        isDamaged: false,
      })
    }
  })

  it.each([
    ['m4a', { as: 'm4a', seconds: 200, audio: 'mp4a', tags, salt: 1 }, 200_000, ['aac']],
    ['mp3', { as: 'mp3', seconds: 180, tags, salt: 1, size: 60_000 }, 180_000, ['mp3']],
    ['flac', { as: 'flac', seconds: 61, tags, salt: 1 }, 61_000, ['flac']],
    ['ogg', { as: 'ogg', seconds: 33, tags, salt: 1 }, 33_000, ['vorbis']],
  ] as const)('tags, length and codec of %s', async (_, recipe, ms, codecs) => {
    const facts = await inspectMedia(make(recipe))
    expect(facts).toMatchObject({
      codecs,
      tags: { title: 'Harbour light', artist: 'The Saltmere Choir', album: 'Low tide', track: '3', year: '2021', genre: 'Choral' },
    })
    expect(Math.abs(facts.durationMs! - ms)).toBeLessThan(100)
  })

  it('a sound without a header of its length is counted: AMR frame by frame, in whatever pieces it comes', async () => {
    const bytes = make({ as: 'amr', seconds: 3, salt: 1 })
    for (const piece of [1, 7, 32, 5000]) {
      const inspector = createMediaInspector()
      for (let at = 0; at < bytes.length; at += piece) inspector.push(bytes.subarray(at, at + piece))
      expect(await inspector.end()).toMatchObject({ durationMs: 3000, isDamaged: false })
    }
    expect((await inspectMedia(bytes.subarray(0, bytes.length - 5))).isDamaged).toBe(true)
  })

  it('a book is told by its container, a sound that only calls itself a film is none', async () => {
    expect(await inspectMedia(make({ as: 'm4b', seconds: 7000, audio: 'mp4a', salt: 1 }))).toMatchObject({
      type: 'audio/mp4',
      tags: { book: 'yes' },
    })
    expect((await inspectMedia(make({ as: 'mp4', seconds: 3, audio: 'mp4a', salt: 1 }))).type).toBe('audio/mp4')
    expect(await inspectMedia(make({ as: 'epub', title: 'Nets & knots', author: 'Ada Oakes', salt: 1 }))).toMatchObject({
      tags: { title: 'Nets & knots', artist: 'Ada Oakes' },
      isProtected: false,
    })
    expect((await inspectMedia(make({ as: 'pdf', title: 'Tide table (2026)', salt: 1, size: 200_000 }))).tags).toEqual({
      title: 'Tide table (2026)',
    })
    expect(await inspectMedia(make({ as: 'mkv', seconds: 90, width: 640, height: 360, salt: 1 }))).toMatchObject({
      durationMs: 90_000,
      codecs: ['vp9'],
    })
  })

  it('what opens with somebody’s key alone is told by its boxes, its encryption file, its trailer', async () => {
    for (const recipe of [
      { as: 'm4a', seconds: 3, audio: 'mp4a', isProtected: true, salt: 1 },
      { ...film, isProtected: true },
      { as: 'epub', title: 'a', author: 'b', isProtected: true, salt: 1 },
      { as: 'pdf', title: 'a', isLocked: true, salt: 1 },
    ] as const)
      expect([recipe.as, (await inspectMedia(make(recipe))).isProtected]).toEqual([recipe.as, true])
    // what it was coded with before it was locked is known all the same
    expect((await inspectMedia(make({ ...film, isProtected: true }))).codecs).toEqual(['h264', 'aac'])
  })
})

describe('files that are not as they should be', () => {
  it('a film whose recording broke off, or that was cut, is damaged', async () => {
    expect(await inspectMedia(make({ ...film, index: 'none' }))).toMatchObject({ type: 'video/mp4', isDamaged: true })
    expect((await inspectMedia(make({ ...film, index: 'last', size: 20_000, cutTo: 9000 }))).isDamaged).toBe(true)
  })

  it('boxes that say more than their film has, and boxes in boxes without end, are said and end', async () => {
    expect((await inspectMedia(make({ ...film, lies: 'sizes' }))).issue).toBe('boxes-lie')
    expect((await inspectMedia(make({ ...film, lies: 'nested' }))).issue).toBe('boxes-without-end')
    // a billion entries, of which there is not one
    const stsd = make(film)
    stsd.writeUInt32BE(1_000_000_000, stsd.indexOf('stsd', 0, 'latin1') + 8)
    expect((await inspectMedia(stsd)).durationMs).toBe(12_500)
  })

  it('a tag of 100 MB is passed over, and so is an empty file', async () => {
    const inspector = createMediaInspector()
    const head = make({ as: 'mp3', seconds: 3, tags, tagBytes: 400_000, salt: 1 }).subarray(0, 4000)
    // a length of 100 MB in seven bits a byte
    head.set([0x2f, 0x57, 0x42, 0x00], 6)
    inspector.push(head)
    for (let i = 0; i < 100; i++) inspector.push(new Uint8Array(1_000_000))
    expect(await inspector.end()).toMatchObject({ type: 'audio/mpeg', issue: 'tags-too-large' })
    expect(await inspectMedia(new Uint8Array())).toMatchObject({ type: undefined })
  })

  it('every container, altered at random or cut, gives facts and never a throw, in bounded time', async () => {
    const next = numbers(77)
    for (const recipe of recipes) {
      const whole = make(recipe)
      for (let turn = 0; turn < 60; turn++) {
        const bytes = Buffer.from(whole)
        for (let n = 1 + Math.floor(next() * 12); n > 0; n--)
          bytes[Math.floor(next() * Math.min(bytes.length, 3000))] = Math.floor(next() * 256)
        const cut = next() < 0.4 ? bytes.subarray(0, Math.floor(next() * bytes.length)) : bytes
        const facts = await inspectMedia(cut)
        expect(facts.durationMs === undefined || Number.isFinite(facts.durationMs)).toBe(true)
      }
    }
  }, 30_000)
})
