import type { z } from 'zod'
import type { pastBody, pastPage } from '#contracts/http/shop.ts'
import { snapshot } from '../base/db/sql.ts'
import { oneShop } from '../base/shop.queries.ts'
import type { Services } from '../base/services.ts'
import { readLedgers } from '../book/ledger.ts'
import { manyKinds, manyTicketsOf } from '../case/tickets.queries.ts'
import { manyActiveRuns } from '../runs/runs.queries.ts'
import { serialHash } from '../vault/holdings.ts'
import { countPast, manyPast, type PastTicketRow, type PastWish } from './past.queries.ts'

/**
 * Past tickets and open ones by number, serial, date, member of staff, model and outcome, the newest first. A past
 * ticket's serial is known by a keyed hash, for as long as the shop keeps it.
 */
export async function readPast({ pool, config }: Services, body: z.infer<typeof pastBody>): Promise<z.infer<typeof pastPage>> {
  const { zone } = await oneShop(pool)
  const { serial, after, limit, ...rest } = body
  const wish: PastWish = { ...rest, zone, serial: serial ? { text: serial, hash: serialHash(config, serial) } : null }
  const rows = await manyPast(pool, wish, { before: after === null ? null : Number(after), limit })
  const page = rows.slice(0, limit)
  const figures = await figuresOf(pool, page)
  return {
    rows: page.map((row) => ({
      number: row.number,
      bookedAt: row.created_at.toISOString(),
      bookedBy: row.by,
      handedBackAt: row.handed_back_at?.toISOString() ?? null,
      old: row.old,
      new: row.new,
      outcome: row.outcome,
      isErased: row.is_erased,
      ...figures.get(row.id)!,
    })),
    total: await countPast(pool, wish),
    next: rows.length > limit ? String(page.at(-1)!.id) : null,
    isShowing: false,
  }
}

/** What was read of the old phone and what came over, from the ledger that was kept or as it stands. */
function figuresOf(pool: Services['pool'], page: readonly PastTicketRow[]) {
  return snapshot(pool, async (client) => {
    const tickets = await manyTicketsOf(
      client,
      page.map(({ id }) => id),
    )
    const ids = tickets.map(({ id }) => id)
    const ledgers = await readLedgers(client, { tickets, kinds: await manyKinds(client, ids), runs: await manyActiveRuns(client, ids) })
    return new Map(
      [...ledgers].map(([id, ledger]) => [
        id,
        {
          read: ledger.reduce((sum, { old }) => sum + (old.read ?? 0) + old.late, 0),
          cameOver: ledger.reduce((sum, { fates }) => sum + fates.carried + fates.changed + fates.merged, 0),
        },
      ]),
    )
  })
}
