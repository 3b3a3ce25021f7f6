import pg from 'pg'
import { closeBatches, insertBatch } from '#server/book/batches/batches.queries.ts'
import { manyToCarry } from '#server/book/entries/carry.queries.ts'
import { settleEach } from '#server/book/settle.ts'
import { transaction } from '#server/base/db/sql.ts'
import { nativeDigest } from '#server/vault/keys.ts'
import { report, sideBySide } from './measure.ts'
import { carriedTicket } from './prepare.ts'
import type { BenchShop } from './shop.ts'
import type { RunId } from '#server/base/ids.ts'

const count = 20_000
const atOnce = 200

/**
 * What it costs that the database holds the table of fates, too: all the book work of carrying (a batch decided, its
 * answer settled, its records named), with the trigger and without. The phone's own time, which is most of carrying,
 * is not even in it.
 */
export async function measureBook(shop: BenchShop): Promise<void> {
  const { pool } = shop.services
  const { ticketId, kind } = await carriedTicket(shop, { kind: 'messages', count, lost: 0 })
  const { rows } = await pool.query<{ id: number }>(`insert into run (ticket_id, type) values ($1, 'carry') returning id`, [ticketId])
  const owner = new pg.Client({ connectionString: shop.ownerUrl })
  await owner.connect()
  const carry = (isHeld: boolean) => async () => {
    await owner.query(`alter table entry disable trigger entry_fate_moves`)
    await owner.query(`update entry set fate = 'pending', last_event = 'read', written = null, sends = 0 where ticket_id = ${ticketId}`)
    await owner.query(`delete from written where ticket_id = ${ticketId}`)
    if (isHeld) await owner.query(`alter table entry enable trigger entry_fate_moves`)
    const began = performance.now()
    let after = -1
    for (;;) {
      const items = await manyToCarry(pool, { ticketId, kind, after, limit: atOnce })
      if (items.length === 0) break
      after = items.at(-1)!.seq
      const batch = await transaction(pool, (client) =>
        insertBatch(client, { ticketId, kind, runId: rows[0]!.id as RunId, epoch: 1, items }),
      )
      const natives = items.map(({ seq }) => nativeDigest(shop.keys, `n${seq}`))
      await transaction(pool, async (client) => {
        await settleEach(
          client,
          { ticketId, kind },
          items.map(({ seq }, i) => ({ seq, event: 'taken', reason: null, written: natives[i]! })),
        )
        await closeBatches(
          client,
          [batch],
          items.map(({ seq }, i) => ({ seq, natives: [natives[i]!], ended: null })),
        )
      })
    }
    times[isHeld ? 0 : 1].push(performance.now() - began)
  }
  const times: [number[], number[]] = [[], []]
  await sideBySide(3, carry(true), carry(false))
  const best = (of: readonly number[]) => Math.min(...of)
  const [held, bare] = [best(times[0]), best(times[1])]
  console.log(
    `book work of ${count} items: ${((held / count) * 1000).toFixed(0)} µs an item with the trigger, ${((bare / count) * 1000).toFixed(0)} without`,
  )
  report('  with the trigger over without it', held / bare, { atMost: 1.05 })
  await owner.end()
}
