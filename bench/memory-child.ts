import { randomBytes } from 'node:crypto'
import { pairKind } from '#server/book/pairing/pair-kind.ts'
import { openPool, transaction } from '#server/base/db/sql.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { keysFrom } from '#server/vault/keys.ts'
import type { Services } from '#server/base/services.ts'
import { peakKb } from './measure.ts'
import { gb } from './shop.ts'
import { carriedTicket, targetOf } from './prepare.ts'

/** Stages and pairs as many messages as asked, and prints its own peak memory in kB. */
const pool = openPool(process.env.CORVEND_DATABASE_URL!, 'corvend-bench', { max: 3 })
const keys = keysFrom(randomBytes(32))
const services = { pool } as Services
const scope = await carriedTicket({ services, keys }, { kind: 'messages', count: Number(process.argv[2]), lost: 17 })
await transaction(pool, (client) =>
  pairKind(client, scope, { keys, target: targetOf('messages'), oldTools: readTools(gb, 0), newTools: readTools(gb, 0) }),
)
await pool.end()
console.log(peakKb())
