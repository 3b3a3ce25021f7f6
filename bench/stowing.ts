import { once } from 'node:events'
import pg from 'pg'
import { from as copyFrom, to as copyTo } from 'pg-copy-streams'
import { kindOf } from '#core/kinds/registry.ts'
import { transaction } from '#server/base/db/sql.ts'
import { insertReading } from '#server/vault/readings.queries.ts'
import { itemColumns } from '#server/vault/blocks.queries.ts'
import { createStowWriter, stowRecord, writeStowed, type Place } from '#server/vault/stow.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { gb, linkRecords, type BenchKind, type BenchShop } from './shop.ts'
import { median, report } from './measure.ts'
import { addTicket, targetOf } from './prepare.ts'

/** Stowing (read, canonical form, digests, sealing, COPY) against a COPY of the identical finished rows into the same table. */
export async function measureStowing(shop: BenchShop): Promise<void> {
  await measureKind(shop, { kind: 'contacts', count: 100_000, rounds: 3, atLeast: 0.15 })
  await measureKind(shop, { kind: 'messages', count: 500_000, rounds: 2, atLeast: 0.25 })
}

async function measureKind(
  { services, keys }: BenchShop,
  { kind, count, rounds, atLeast }: { kind: BenchKind; count: number; rounds: number; atLeast: number },
): Promise<void> {
  const { pool } = services
  // made beforehand: a phone's own work is none of ours
  const records = [...linkRecords(kind, count)]
  const stowing = { kind: kindOf(kind), keys, tools: readTools(gb, 0), target: targetOf(kind) }
  const times = { make: [] as number[], write: [] as number[], whole: [] as number[], copy: [] as number[] }
  for (let round = -1; round < rounds; round++) {
    const { holding } = await addTicket(pool, kind)
    const newReading = () => insertReading(pool, { holding, place: 'old', kind, purpose: 'probe', canonicalVersion: 1 })
    const reading = await newReading()
    let place: Place = { readingId: reading.id, items: 0, blocks: 0 }
    let writeMs = 0
    const began = performance.now()
    const writer = createStowWriter(stowing, async ({ rows }) => {
      const start = performance.now()
      place = await transaction(pool, (client) => writeStowed(client, keys, place, rows))
      writeMs += performance.now() - start
    })
    for (const record of records) await writer.push(record)
    await writer.end()
    const wholeMs = performance.now() - began
    const making = performance.now()
    for (const record of records) stowRecord(stowing, record)
    const makeMs = performance.now() - making
    const other = await newReading()
    const copyMs = await copyAgain(services.config.databaseUrl, reading.id, other.id)
    await pool.query('delete from reading where holding_id = $1', [holding])
    if (round < 0) continue
    times.make.push(makeMs)
    times.write.push(writeMs)
    times.whole.push(wholeMs)
    times.copy.push(copyMs)
  }
  const perItem = (ms: number) => `${((ms / count) * 1000).toFixed(1)} µs`
  console.log(
    `${count.toLocaleString('en-GB')} ${kind}, each: whole ${perItem(median(times.whole))}; read and digest alone ${perItem(median(times.make))}, and beside it seal and COPY ${perItem(median(times.write))}; the COPY of finished rows alone ${perItem(median(times.copy))}`,
  )
  report(`stowing of ${kind}, the bare COPY’s time over ours`, median(times.copy) / median(times.whole), { atLeast })
}

/** Copies the finished rows of a reading in once more under another reading, 5,000 a transaction as stowing does; milliseconds. */
async function copyAgain(databaseUrl: string, from: number, to: number): Promise<number> {
  const client = new pg.Client({ connectionString: databaseUrl })
  await client.connect()
  try {
    const rows: Buffer[] = []
    const out = client.query(
      copyTo(`copy (select ${itemColumns.replace('reading_id', String(to))} from item where reading_id = ${from} order by seq) to stdout`),
    )
    out.on('data', (chunk: Buffer) => rows.push(chunk))
    await once(out, 'end')
    const lines = Buffer.concat(rows)
    const cuts = [0]
    for (let at = lines.indexOf(10), n = 1; at >= 0; at = lines.indexOf(10, at + 1), n++)
      if (n % 5000 === 0 || at === lines.length - 1) cuts.push(at + 1)
    const began = performance.now()
    for (let i = 1; i < cuts.length; i++) {
      const stream = client.query(copyFrom(`copy item (${itemColumns}) from stdin`))
      stream.end(lines.subarray(cuts[i - 1], cuts[i]))
      await once(stream, 'finish')
    }
    return performance.now() - began
  } finally {
    await client.end()
  }
}
