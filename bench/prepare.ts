import type pg from 'pg'
import type { HoldingId, TicketId } from '#server/base/ids.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import { transaction } from '#server/base/db/sql.ts'
import { insertEntries } from '#server/book/entries/entries.queries.ts'
import { keepPlaces } from '#server/book/listing/tags.queries.ts'
import { insertReading, summarizeReading } from '#server/vault/readings.queries.ts'
import { createStowWriter, writeStowed, type Place } from '#server/vault/stow.ts'
import { readTools } from '#server/vault/read-tools.ts'
import type { PairScope } from '#server/book/pairing/pairing.queries.ts'
import { gb, linkRecords, type BenchKind, type BenchShop } from './shop.ts'

/** The phone that takes: for messages one of the same platform, so that none can't cross. */
export const targetOf = (kind: BenchKind) =>
  findModel(
    kind === 'contacts'
      ? { maker: 'Veyra', model: 'Veyra 12', platform: 'ios' }
      : { maker: 'Orrin', model: 'Orrin 7', platform: 'android' },
  )

export interface Prepared {
  readonly kind: BenchKind
  readonly count: number
  /** So many records are not on the new phone. */
  readonly lost: number
}

/** A ticket that wants one kind, and its holding. */
export async function addTicket(pool: pg.Pool, kind: BenchKind): Promise<{ ticketId: TicketId; holding: HoldingId }> {
  const { rows } = await pool.query<{ id: TicketId; holding: HoldingId }>(
    `with h as (insert into holding (id, purpose) values (gen_random_uuid(), 'ticket') returning id)
     insert into ticket (number, holding_id, promised_at, waits_in_shop, booked_by)
     select 'B-' || h.id, h.id, now(), true, (select min(id) from staff) from h
     returning id, holding_id as holding`,
  )
  const { id: ticketId, holding } = rows[0]!
  await pool.query(`insert into ticket_kind (ticket_id, kind) values ($1, $2)`, [ticketId, kind])
  return { ticketId, holding }
}

/** A ticket after carrying: read, stowed and carried, its new phone read afresh. */
export async function carriedTicket(
  shop: Pick<BenchShop, 'services' | 'keys'>,
  { kind, count, lost }: Prepared,
): Promise<PairScope & { oldReading: number }> {
  const { pool } = shop.services
  const { ticketId, holding } = await addTicket(pool, kind)
  const stage = async (side: 'old' | 'new', purpose: 'first' | 'last', missing: number) => {
    const n = count - missing
    const reading = await insertReading(pool, { holding, place: side, kind, purpose, canonicalVersion: 1 })
    const stowing = { kind: kindOf(kind), keys: shop.keys, tools: readTools(gb, 0), target: side === 'old' ? targetOf(kind) : null }
    let place: Place = { readingId: reading.id, items: 0, blocks: 0 }
    const writer = createStowWriter(stowing, async ({ rows }) => {
      place = await transaction(pool, (client) => writeStowed(client, shop.keys, place, rows))
    })
    for (const record of linkRecords(kind, count, { dialect: side === 'old' ? 'orrin' : 'veyra', lost: missing })) await writer.push(record)
    await writer.end()
    await pool.query(`update reading set state = 'whole', got = $2, counted = $2, phone_revision = '1' where id = $1`, [reading.id, n])
    await keepPlaces(pool, reading.id, kind)
    await summarizeReading(pool, reading.id, kindOf(kind).figures ?? [])
    return reading.id
  }
  const oldReading = await stage('old', 'first', 0)
  const scope = {
    ticketId,
    kind,
    oldReading,
    firstReading: await stage('new', 'first', count),
    lastReading: await stage('new', 'last', lost),
    previousReading: null,
  }
  await transaction(pool, (client) => insertEntries(client, { ticketId, kind, readingId: oldReading, choice: 'all' }))
  await pool.query(`update entry set fate = 'carried', last_event = 'taken', sends = 1 where ticket_id = $1`, [ticketId])
  await pool.query('update ticket_kind set old_reading = $2, first_reading = $3, last_reading = $4 where ticket_id = $1', [
    ticketId,
    oldReading,
    scope.firstReading,
    scope.lastReading,
  ])
  await pool.query(`select refresh_statistics('item', 1000000), refresh_statistics('entry', 1000000)`)
  return scope
}
