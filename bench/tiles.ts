import { searchBody } from '#contracts/http/ticket.ts'
import { listedPage, sourceOf } from '#server/book/listing/listing.queries.ts'
import { oneKind } from '#server/case/tickets.queries.ts'
import { explained } from './first-page.ts'
import { report } from './measure.ts'
import { carriedTicket } from './prepare.ts'
import type { BenchShop } from './shop.ts'

/** Buffers the first page of tiles reads at 50,000 photos against 5,000; and how much comes with it. */
export async function measureTiles(shop: BenchShop): Promise<void> {
  const { pool } = shop.services
  const scopes = [
    await carriedTicket(shop, { kind: 'photos', count: 5_000, lost: 0 }),
    await carriedTicket(shop, { kind: 'photos', count: 50_000, lost: 0 }),
  ]
  await pool.query('analyze item; analyze entry')
  for (const [what, change] of Object.entries({
    'all photos': {},
    favourites: { facet: 'photo-favourite' },
    'what arrived': { filter: 'carried' },
  })) {
    const looks = []
    for (const { ticketId } of scopes) {
      const kind = await oneKind(pool, ticketId, 'photos')
      const search = searchBody.parse({ kind: 'photos', ...change })
      looks.push(
        await explained(pool, (client) => listedPage(client, { source: sourceOf(search.filter as 'all', kind), search, after: -1 })),
      )
    }
    const [small, large] = looks
    console.log(
      `first tiles of ${what}: ${small!.buffers} buffers at 5,000, ${large!.buffers} at 50,000; ${large!.bad.join(', ') || 'no sequential scan, no sort'}`,
    )
    report(`buffers of the first tiles of ${what}, 50,000 over 5,000`, large!.buffers / small!.buffers, { atMost: 1.5 })
  }
}
