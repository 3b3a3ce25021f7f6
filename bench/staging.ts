import { kindOf } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import { transaction } from '#server/db/sql.ts'
import { insertReading } from '#server/readings/readings.queries.ts'
import { copyRow, copyRows, createStageWriter, itemColumns, stageRecord, writeStaged, type Place, type StagedItem } from '#server/readings/stage.ts'
import { readTools } from '#server/readings/take-reading.ts'
import { linkRecords, type BenchShop } from './shop.ts'
import { median, report } from './measure.ts'

const count = 100_000
const batch = 5_000

/** Staging 100,000 contacts (read, canonical form, digests, sealing, COPY) against a COPY of the identical finished rows. */
export async function measureStaging({ services, keys, addTicket }: BenchShop): Promise<void> {
  const { pool } = services
  const records = [...linkRecords(count)]
  const stager = { kind: kindOf('contacts'), keys, tools: readTools({ region: 'GB', zone: 'Europe/London' }, 0), target: findModel({ maker: 'Veyra', model: 'Veyra 12', platform: 'ios' }) }
  const times = { make: [] as number[], write: [] as number[], whole: [] as number[], copy: [] as number[] }
  for (let round = -1; round < 5; round++) {
    const ticketId = await addTicket()
    const newReading = () => insertReading(pool, { ticketId, side: 'old', kind: 'contacts', purpose: 'probe', canonicalVersion: 1 })
    const reading = await newReading()
    let place: Place = { readingId: reading.id, items: 0, blocks: 0 }
    let writeMs = 0
    const kept: StagedItem[] = []
    const began = performance.now()
    const writer = createStageWriter(stager, async ({ rows }) => {
      const start = performance.now()
      place = await transaction(pool, (client) => writeStaged(client, keys, place, rows))
      writeMs += performance.now() - start
      kept.push(...rows)
    })
    for (const record of records) await writer.push(record)
    await writer.end()
    const wholeMs = performance.now() - began
    const making = performance.now()
    for (const record of records) stageRecord(stager, record)
    const makeMs = performance.now() - making
    const other = await newReading()
    const rows = kept.map((item, i) => copyRow(item, [other.id, i, Math.floor(i / 1000), i % 1000]))
    const copying = performance.now()
    for (let at = 0; at < count; at += batch) {
      await transaction(pool, (client) =>
        copyRows(client, `copy item (${itemColumns}) from stdin`, rows.slice(at, at + batch)),
      )
    }
    const copyMs = performance.now() - copying
    await pool.query('delete from reading where ticket_id = $1', [ticketId])
    if (round < 0) continue
    times.make.push(makeMs)
    times.write.push(writeMs)
    times.whole.push(wholeMs)
    times.copy.push(copyMs)
  }
  const perItem = (ms: number) => `${((ms / count) * 1000).toFixed(1)} µs`
  console.log(`an item: whole ${perItem(median(times.whole))}; read and digest alone ${perItem(median(times.make))}, and beside it seal and COPY ${perItem(median(times.write))}; the COPY of finished rows alone ${perItem(median(times.copy))}`)
  report('staging, the bare COPY’s time over ours', median(times.copy) / median(times.whole), { atLeast: 0.15 })
}
