import { pairKind } from '#server/book/pairing/pair-kind.ts'
import { matchingStatement } from '#server/book/pairing/pairing.queries.ts'
import { transaction } from '#server/base/db/sql.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { report, sideBySide } from './measure.ts'
import { carriedTicket, targetOf } from './prepare.ts'
import { gb, type BenchShop } from './shop.ts'

const count = 500_000

/** The matching statement against one signed count over both sides; reading and writing back printed apart. */
export async function measureMatching(shop: BenchShop): Promise<void> {
  const { pool } = shop.services
  const scope = await carriedTicket(shop, { kind: 'messages', count, lost: 17 })
  const values = [scope.ticketId, scope.kind, scope.firstReading, scope.lastReading]
  const setting = `set local work_mem = '128MB'; set local max_parallel_workers_per_gather = 0`
  const ours = () =>
    transaction(pool, async (client) => {
      await client.query(setting)
      const { rowCount } = await client.query(matchingStatement, values)
      if (rowCount !== 17) throw new Error(`17 were expected, ${rowCount} found`)
    })
  const plain = () =>
    transaction(pool, async (client) => {
      await client.query(setting)
      await client.query(
        `select count(*) from (
           select digest, sum(n) from (select expected as digest, 1 as n from item where reading_id = $1 union all select digest, -1 from item where reading_id = $2) s group by digest
         ) g`,
        [scope.oldReading, scope.lastReading],
      )
    })
  const { firstMs, secondMs } = await sideBySide(5, ours, plain)
  const whole: number[] = []
  for (let i = 0; i < 3; i++) {
    const began = performance.now()
    await transaction(pool, (client) =>
      pairKind(client, scope, { keys: shop.keys, target: targetOf('messages'), oldTools: readTools(gb, 0), newTools: readTools(gb, 0) }),
    )
    whole.push(performance.now() - began)
  }
  console.log(
    `${count} against ${count - 17}: matching ${firstMs.toFixed(0)} ms, a signed count ${secondMs.toFixed(0)} ms; the whole pairing with reading what differs and writing back ${Math.min(...whole).toFixed(0)} ms`,
  )
  report('matching, ours over a signed count', firstMs / secondMs, { atMost: 1.5 })
}
