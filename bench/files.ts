import { parseBuffer } from 'music-metadata'
import { searchBody } from '#contracts/http/ticket.ts'
import { createMediaInspector } from '#core/formats/media/inspect.ts'
import { manyGroups, listedPage, sourceOf } from '#server/book/listing/listing.queries.ts'
import { oneKind } from '#server/case/tickets.queries.ts'
import { makeFile } from '#standins/files/files.ts'
import type { MediaRecipe } from '#standins/files/media.ts'
import { explained } from './first-page.ts'
import { report, sideBySide } from './measure.ts'
import { carriedTicket } from './prepare.ts'
import type { BenchShop } from './shop.ts'

/** Buffers the first page at Choose reads with 30,000 tracks against 3,000, and what reading a file's facts costs against the plain library call. */
export async function measureFiles(shop: BenchShop): Promise<void> {
  await measureTracks(shop)
  await measureFacts()
}

async function measureTracks(shop: BenchShop): Promise<void> {
  const { pool } = shop.services
  const scopes = [
    await carriedTicket(shop, { kind: 'music', count: 3_000, lost: 0 }),
    await carriedTicket(shop, { kind: 'music', count: 30_000, lost: 0 }),
  ]
  await pool.query('analyze item; analyze entry')
  const looks = {
    'all tracks': async ({ ticketId }: (typeof scopes)[number]) => {
      const kind = await oneKind(pool, ticketId, 'music')
      const search = searchBody.parse({ kind: 'music' })
      return explained(pool, (client) => listedPage(client, { source: sourceOf('all', kind), search, after: -1 }))
    },
    'artists and albums': ({ oldReading }: (typeof scopes)[number]) =>
      explained(pool, (client) => manyGroups(client, { readingId: oldReading as never, after: 0, limit: 60 })),
  }
  for (const [what, look] of Object.entries(looks)) {
    const [small, large] = [await look(scopes[0]!), await look(scopes[1]!)]
    console.log(
      `first page of ${what}: ${small.buffers} buffers at 3,000, ${large.buffers} at 30,000; ${large.bad.join(', ') || 'no sequential scan, no sort'}`,
    )
    if (what === 'all tracks')
      report(`buffers of the first page of ${what}, 30,000 over 3,000`, large.buffers / small.buffers, { atMost: 1.5 })
  }
}

async function measureFacts(): Promise<void> {
  const film: MediaRecipe = {
    as: 'mp4',
    seconds: 90,
    video: 'avc1',
    audio: 'mp4a',
    width: 1920,
    height: 1080,
    index: 'last',
    salt: 1,
    size: 2_900_000,
  }
  const track: MediaRecipe = { as: 'mp3', seconds: 200, tags: { title: 'a', artist: 'b', album: 'c' }, salt: 1, size: 2_900_000 }
  for (const [what, media, mimeType] of [
    ['a film', film, 'video/mp4'],
    ['a track', track, 'audio/mpeg'],
  ] as const) {
    const bytes = makeFile({ media })
    const ours = async () => {
      for (let n = 0; n < 40; n++) {
        const inspector = createMediaInspector()
        for (let at = 0; at < bytes.length; at += 65_536) inspector.push(bytes.subarray(at, at + 65_536))
        await inspector.end()
      }
    }
    const plain = async () => {
      for (let n = 0; n < 40; n++) await parseBuffer(bytes, { mimeType, size: bytes.length }, { skipCovers: true })
    }
    const { firstMs, secondMs } = await sideBySide(5, ours, plain)
    console.log(
      `facts of ${what} of 2.9 MB as it streams by: ${(firstMs / 40).toFixed(2)} ms, by the library from memory ${(secondMs / 40).toFixed(2)} ms`,
    )
    report(`reading the facts of ${what} over the plain library call`, firstMs / secondMs, { atMost: 1.5 })
  }
}
