import { kindOf } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import { transaction } from '#server/db/sql.ts'
import { insertEntries } from '#server/plan/entries.queries.ts'
import { insertReading } from '#server/readings/readings.queries.ts'
import { createStageWriter, writeStaged, type Place } from '#server/readings/stage.ts'
import { readTools } from '#server/readings/take-reading.ts'
import type { PairScope } from '#server/check/pairing.queries.ts'
import { linkRecords, type BenchShop } from './shop.ts'

export const target = findModel({ maker: 'Veyra', model: 'Veyra 12', platform: 'ios' })

/** A ticket after carrying: read, staged and carried, its new phone read afresh; `lost` records are not there. */
export async function carriedTicket(shop: Pick<BenchShop, 'services' | 'keys' | 'addTicket'>, count: number, lost = 0): Promise<PairScope> {
  const { pool } = shop.services
  const ticketId = await shop.addTicket()
  const stage = async (side: 'old' | 'new', purpose: 'first' | 'last', n: number) => {
    const reading = await insertReading(pool, { ticketId, side, kind: 'contacts', purpose, canonicalVersion: 1 })
    const stager = { kind: kindOf('contacts'), keys: shop.keys, tools: readTools({ region: 'GB', zone: 'Europe/London' }, 0), target: side === 'old' ? target : null }
    let place: Place = { readingId: reading.id, items: 0, blocks: 0 }
    const writer = createStageWriter(stager, async ({ rows }) => {
      place = await transaction(pool, (client) => writeStaged(client, shop.keys, place, rows))
    })
    for (const record of linkRecords(n, side === 'old' ? 'orrin' : 'veyra')) await writer.push(record)
    await writer.end()
    return reading.id
  }
  const oldReading = await stage('old', 'first', count)
  const scope = { ticketId, kind: 'contacts', firstReading: await stage('new', 'first', 0), lastReading: await stage('new', 'last', count - lost) }
  await transaction(pool, (client) => insertEntries(client, { ticketId, kind: 'contacts', readingId: oldReading, choice: 'all', leftByDefault: [] }))
  await pool.query(`update entry set fate = 'carried', sends = 1 where ticket_id = $1`, [ticketId])
  await pool.query('select refresh_item_statistics(), refresh_entry_statistics()')
  return scope
}
