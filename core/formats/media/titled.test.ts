import { parseBuffer } from 'music-metadata'
import { describe, expect, it } from 'vitest'
import { numbers } from '#standins/demo/draw.ts'
import { makeFile } from '#standins/files/files.ts'
import type { MediaRecipe } from '#standins/files/media.ts'
import { inspectMedia } from './inspect.ts'
import { createTitleWriter, mostIndexBytes, type Title } from './titled.ts'

const title: Title & { atMs: number } = { title: 'Tide: 04/11 “low” 潮', atMs: Date.UTC(2026, 10, 4, 18, 5, 9) }

/** Writes the title, the file in pieces of some bytes. */
function titled(type: string, bytes: Buffer, piece = 1000, said: Title = title): Buffer | undefined {
  const writer = createTitleWriter(type, said, bytes.length)
  const out: Uint8Array[] = []
  for (let at = 0; at < bytes.length; at += piece) out.push(Buffer.from(writer.push(bytes.subarray(at, at + piece))))
  const end = writer.end()
  return end && Buffer.concat([...out, end])
}

const recipes: readonly [what: string, type: string, MediaRecipe][] = [
  ['an MP4 file with its index in front', 'audio/mp4', { as: 'm4a', seconds: 61, audio: 'mp4a', salt: 1 }],
  ['an MP4 file with its index at the end', 'audio/mp4', { as: 'm4a', seconds: 61, audio: 'mp4a', index: 'last', salt: 2, size: 90_000 }],
  [
    'an MP4 file with tags of its own',
    'audio/mp4',
    { as: 'm4a', seconds: 61, audio: 'mp4a', tags: { title: 'Old', artist: 'Ada', year: 1999 }, salt: 3 },
  ],
  ['a 3GP file', 'video/3gpp', { as: '3gp', seconds: 61, video: 's263', audio: 'samr', salt: 6 }],
  ['a WAV file', 'audio/wav', { as: 'wav', seconds: 1, salt: 4 }],
  ['MPEG audio without a tag', 'audio/mpeg', { as: 'mp3', seconds: 61, hasNoTags: true, salt: 5 }],
]

describe('title and date written into a sound', () => {
  it.each(recipes)(
    '%s: another reader finds both, the length is what it was, and every byte of the sound is there',
    async (_, type, media) => {
      const bytes = makeFile({ media })
      expect((await inspectMedia(bytes)).canBeTitled).toBe(true)
      const whole = titled(type, bytes)!
      const [before, after] = await Promise.all(
        [bytes, whole].map((of) => parseBuffer(of, { mimeType: type.replace('3gpp', 'mp4'), size: of.length })),
      )
      expect(after!.common.title).toBe(title.title)
      expect(after!.common.date ?? after!.common.year).toMatch(/^2026-11-04/)
      expect(after!.common.artist).toBe(before!.common.artist)
      expect(after!.format.duration).toBe(before!.format.duration)
      const facts = await inspectMedia(whole)
      expect(facts).toMatchObject({ isDamaged: false, type: (await inspectMedia(bytes)).type })
      expect(facts.issue).toBeUndefined()
      // however it is cut on its way, it is the same
      for (const piece of [1, 7, 64_000]) expect(titled(type, bytes, piece)!.equals(whole)).toBe(true)
      // what is found at a place of the file is found at that place: an index points at it by its place
      if (type === 'audio/mp4' || type === 'video/3gpp') expect(whole.indexOf('mdat')).toBe(bytes.indexOf('mdat'))
      else expect(whole.includes(bytes.subarray(8))).toBe(true)
    },
  )

  it('an index in front stays where it was, as free space; written twice, there is one title', async () => {
    const bytes = makeFile({ media: recipes[0]![2] })
    const once = titled('audio/mp4', bytes)!
    const twice = titled('audio/mp4', once, 1000, { title: 'Another', atMs: null })!
    expect((await parseBuffer(twice, { mimeType: 'audio/mp4' })).common.title).toBe('Another')
    expect(once.includes('free')).toBe(true)
    expect((await inspectMedia(twice)).canBeTitled).toBe(true)
  })

  it('what can’t hold it is told beforehand and goes as it is: pieces, an end that is not known, no index, lies, somebody’s tag', async () => {
    const bytes = makeFile({ media: recipes[0]![2] })
    const box = (type: string, size: number) => {
      const out = Buffer.alloc(Math.max(8, size))
      out.writeUInt32BE(size)
      out.write(type, 4, 'latin1')
      return out
    }
    const cases: [string, Buffer][] = [
      ['audio/mp4', Buffer.concat([bytes, box('moof', 40)])],
      ['audio/mp4', Buffer.concat([bytes, box('mdat', 0), Buffer.alloc(50)])],
      ['audio/mp4', Buffer.concat([bytes, bytes.subarray(bytes.indexOf('moov') - 4)])],
      ['audio/mp4', bytes.subarray(0, bytes.length - 20)],
      ['audio/mp4', makeFile({ media: { as: 'm4a', seconds: 9, audio: 'mp4a', index: 'none', salt: 1 } })],
      ['audio/mp4', makeFile({ media: { as: 'm4a', seconds: 9, audio: 'mp4a', lies: 'sizes', salt: 1 } })],
      ['audio/mpeg', makeFile({ media: { as: 'mp3', seconds: 9, tags: { title: 'Mine' }, salt: 1 } })],
      ['audio/wav', Buffer.concat([makeFile({ media: { as: 'wav', seconds: 1, salt: 4 } }), Buffer.alloc(9)])],
    ]
    for (const [i, [type, whole]] of cases.entries()) {
      expect([i, (await inspectMedia(whole)).canBeTitled ?? false]).toEqual([i, false])
      expect([i, titled(type, whole)]).toEqual([i, undefined])
    }
    expect(titled('audio/amr', makeFile({ media: { as: 'amr', seconds: 1, salt: 1 } }))).toBeUndefined()
    const large = Buffer.concat([box('ftyp', 16), box('moov', mostIndexBytes + 1)])
    expect(titled('audio/mp4', large, 65_536)).toBeUndefined()
  })

  it('bytes altered at random: a file another reader takes, or none; never a throw, and never more than a title longer', async () => {
    const next = numbers(11)
    for (let i = 0; i < 3000; i++) {
      const [, type, media] = recipes[i % recipes.length]!
      const bytes = makeFile({ media }).subarray(0, 6000)
      for (let n = 1 + Math.floor(next() * 6); n > 0; n--)
        bytes[Math.floor(next() * Math.min(bytes.length, 800))] = Math.floor(next() * 256)
      const out = titled(type, bytes, 500)
      if (out) expect(out.length - bytes.length).toBeLessThan(4000)
    }
    // boxes of eight bytes each, as many as a file holds
    const tiny = Buffer.alloc(4_000_000)
    for (let at = 0; at < tiny.length; at += 8) tiny.writeUInt32BE(8, at)
    expect(titled('audio/mp4', tiny, 65_536)).toBeUndefined()
  })
})
