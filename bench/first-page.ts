import type { z } from 'zod'
import { searchBody } from '#contracts/http/ticket.ts'
import type { Client } from '#server/base/db/sql.ts'
import { listedPage, sourceOf } from '#server/book/listing/listing.queries.ts'
import { oneKind } from '#server/case/tickets.queries.ts'
import { report } from './measure.ts'
import { carriedTicket } from './prepare.ts'
import type { BenchShop } from './shop.ts'

type Search = z.infer<typeof searchBody>
const whole = searchBody.parse({ kind: 'messages' })
const pages: Readonly<Record<string, Partial<Search>>> = {
  'all items': {},
  'one facet': { facet: 'message-sent' },
  'a rare facet': { facet: 'message-unread' },
  'what arrived': { filter: 'carried' },
  'one month': { when: '2026-10' },
}

/** Buffers that the first page of a ticket's list reads at 500,000 messages against 50,000; nothing is scanned whole or sorted. */
export async function measureFirstPage(shop: BenchShop): Promise<void> {
  const { pool } = shop.services
  const scopes = [
    await carriedTicket(shop, { kind: 'messages', count: 50_000, lost: 0 }),
    await carriedTicket(shop, { kind: 'messages', count: 500_000, lost: 0 }),
  ]
  await pool.query('analyze item; analyze entry')
  for (const [what, change] of Object.entries(pages)) {
    const looks = []
    for (const { ticketId } of scopes) {
      const kind = await oneKind(pool, ticketId, 'messages')
      const search = { ...whole, ...change }
      looks.push(
        await explained(pool, (client) => listedPage(client, { source: sourceOf(search.filter as 'all', kind), search, after: -1 })),
      )
    }
    const [small, large] = looks as [Look, Look]
    console.log(
      `first page of ${what}: ${small.buffers} buffers at 50,000, ${large.buffers} at 500,000; ${large.bad.join(', ') || 'no sequential scan, no sort'}`,
    )
    report(`buffers of the first page of ${what}, 500,000 over 50,000`, large.buffers / small.buffers, { atMost: 1.5 })
  }
}

export interface Look {
  buffers: number
  bad: string[]
}

/** Runs the statements of some work under `explain (analyze, buffers)`; twice, so that the second finds everything in memory. */
export async function explained(pool: BenchShop['services']['pool'], work: (client: Client) => Promise<unknown>): Promise<Look> {
  const look: Look = { buffers: 0, bad: [] }
  for (let round = 0; round < 2; round++) {
    Object.assign(look, { buffers: 0, bad: [] })
    const client = {
      async query(text: string, values: unknown[]) {
        const { rows } = await pool.query(`explain (analyze, buffers, format json) ${text}`, values)
        const { Plan: plan } = rows[0]['QUERY PLAN'][0]
        look.buffers += plan['Shared Hit Blocks'] + plan['Shared Read Blocks']
        look.bad.push(...badIn(plan))
        return pool.query(text, values)
      },
    }
    await work(client as unknown as Client)
  }
  return look
}

/** A node of PostgreSQL’s own plan, as `explain (format json)` gives it. */
interface PlanNode {
  readonly 'Node Type': string
  readonly Plans?: readonly PlanNode[]
}

function badIn(plan: PlanNode): string[] {
  const mine = /Seq Scan|Sort/.test(plan['Node Type']) ? [plan['Node Type']] : []
  return [...mine, ...(plan.Plans ?? []).flatMap(badIn)]
}
