import { pairKind } from '#server/check/pair-kind.ts'
import { openPool, transaction } from '#server/db/sql.ts'
import { readTools } from '#server/readings/take-reading.ts'
import { newWrappedKey, ticketKeys } from '#server/seal/keys.ts'
import type { Services } from '#server/services.ts'
import { carriedTicket, target } from './prepare.ts'

/** Stages and pairs as many contacts as asked, and prints its own peak memory in kB. */
const masterKey = Buffer.from(process.env.CORVEND_MASTER_KEY!, 'hex')
const pool = openPool(process.env.CORVEND_DATABASE_URL!, 'corvend-bench', 3)
const wrapped = newWrappedKey(masterKey, 'ticket')
const keys = ticketKeys(masterKey, wrapped)
const services = { pool } as Services
const scope = await carriedTicket(
  {
    services,
    keys,
    async addTicket() {
      const { rows } = await pool.query(`insert into ticket (key_wrapped, promised_at, waits_in_shop, booked_by) select $1, now(), true, min(id) from staff returning id`, [wrapped])
      await pool.query(`insert into ticket_kind (ticket_id, kind) values ($1, 'contacts')`, [rows[0].id])
      return rows[0].id as number
    },
  },
  Number(process.argv[2]),
  17,
)
await transaction(pool, (client) => pairKind(client, scope, { keys, target, oldTools: readTools({ region: 'GB', zone: 'Europe/London' }, 0), newTools: readTools({ region: 'GB', zone: 'Europe/London' }, 0) }))
await pool.end()
console.log(process.resourceUsage().maxRSS)
