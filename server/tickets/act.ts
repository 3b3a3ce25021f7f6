import type { z } from 'zod'
import type { BookIn, carryBody, chooseBody, rolesBody } from '#contracts/http/ticket.ts'
import { kinds as registered } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import { looksExchanged } from '#core/plan/guards.ts'
import type pg from 'pg'
import { one, sqlState, transaction, type Client } from '../db/sql.ts'
import { Problem } from '../http/problem.ts'
import { chooseAll, chooseSome } from '../plan/entries.queries.ts'
import { readLedgers } from '../ledger/ledger.ts'
import { insertRun, maybeActiveRun, stopRun, type RunRow } from '../runs/runs.queries.ts'
import { newWrappedKey, sealText, ticketKeys } from '../seal/keys.ts'
import type { Services } from '../services.ts'
import { insertShowing } from '../showing/showing.queries.ts'
import { findUpload } from '../uploads/uploads.queries.ts'
import { readForecast } from './read-ticket.ts'
import { mayHandOver } from './stage.ts'
import { manyKinds, manyPhones, manyTicketsOfSerials, maybeTicket, tellTicket, type KindRow, type PhoneRow, type TicketRow } from './tickets.queries.ts'

/** Books a ticket in. @throws Problem `SamePhoneTwice`, `PhoneOnOtherTicket`, `FileUnreadable`, `BadRequest` */
export async function bookIn(services: Services, body: BookIn, staffId: number): Promise<string> {
  const { pool, config } = services
  const serialOf = (phone: BookIn['old']) => (phone.link === 'file' ? (phone.upload ? `file-${phone.upload}` : null) : phone.serial)
  const serials = [serialOf(body.old), serialOf(body.new)]
  if (serials[0] !== null && serials[0] === serials[1]) throw new Problem('SamePhoneTwice')
  if (body.new.link === 'file') throw new Problem('BadRequest', { fields: ['new'] })
  for (const kind of body.kinds) if (!registered.some((k) => k.code === kind)) throw new Problem('BadRequest', { fields: ['kinds'] })
  const wrapped = newWrappedKey(config.masterKey, 'ticket')
  const keys = ticketKeys(config.masterKey, wrapped)
  try {
    return await transaction(pool, async (client) => {
      if (body.old.link === 'file' && !(body.old.upload && (await findUpload(client, body.old.upload)))) throw new Problem('FileUnreadable')
      const { id, number } = await one<{ id: number; number: string }>(
        client,
        `insert into ticket (key_wrapped, customer, promised_at, waits_in_shop, booked_by) values ($1, $2, $3, $4, $5) returning id, number`,
        [wrapped, sealText(keys, 'customer', JSON.stringify(body.customer)), body.promisedAt, body.waitsInShop, staffId],
      )
      for (const [i, side] of (['old', 'new'] as const).entries()) {
        const { link, maker, model, platform, version, upload } = body[side]
        await client.query(
          `insert into ticket_phone (ticket_id, side, link, maker, model, platform, version, serial, upload_id) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
          [id, side, link, maker, model, platform, version, serials[i], link === 'file' ? upload : null],
        )
      }
      for (const kind of new Set(body.kinds)) await client.query('insert into ticket_kind (ticket_id, kind) values ($1, $2)', [id, kind])
      await tellTicket(client, id, 'booked')
      return number
    })
  } catch (error) {
    if (sqlState(error) === 'unique_violation') throw new Problem('PhoneOnOtherTicket')
    throw error
  }
}

/** Says which phone is which. @throws Problem `RolesFrozen`, `SamePhoneTwice`, `PhoneOnOtherTicket`, `PhoneBusy` */
export async function setRoles(services: Services, number: string, { oldSerial, newSerial }: z.infer<typeof rolesBody>, phonesSeen: readonly { serial: string; maker: string; model: string; platform: string; version: string }[]): Promise<void> {
  if (oldSerial === newSerial) throw new Problem('SamePhoneTwice')
  await onTicket(services, number, async (client, ticket) => {
    if (ticket.roles_frozen_at) throw new Problem('RolesFrozen')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const others = await manyTicketsOfSerials(client, [oldSerial, newSerial])
    if (others.some((other) => other.ticket_id !== ticket.id)) throw new Problem('PhoneOnOtherTicket')
    await client.query(`update ticket_phone set serial = null where ticket_id = $1 and link = 'standin'`, [ticket.id])
    for (const [side, serial] of [['old', oldSerial], ['new', newSerial]] as const) {
      const seen = phonesSeen.find((phone) => phone.serial === serial)
      if (!seen && !serial.startsWith('file-')) throw new Problem('NotPlugged')
      if (!seen) continue
      await client.query(
        `update ticket_phone set link = 'standin', serial = $3, maker = $4, model = $5, platform = $6, version = $7, upload_id = null where ticket_id = $1 and side = $2`,
        [ticket.id, side, serial, seen.maker, seen.model, seen.platform, seen.version],
      )
    }
    // what was read belongs to the phones as they were named
    await client.query('delete from entry where ticket_id = $1', [ticket.id])
    await client.query('update ticket_kind set old_reading = null, first_reading = null where ticket_id = $1', [ticket.id])
    await client.query('delete from reading where ticket_id = $1', [ticket.id])
  })
}

/** Starts a run, or answers with the one that is under way: a click made twice starts one. @throws Problem `PhoneBusy` */
async function startRun(client: Client, { ticket, type, phones, staffId }: { ticket: TicketRow; type: RunRow['type']; phones: readonly PhoneRow[]; staffId: number }): Promise<number> {
  const active = await maybeActiveRun(client, ticket.id)
  if (active) {
    if (active.type === type) return active.id
    throw new Problem('PhoneBusy')
  }
  const serials = phones.flatMap((phone) => (phone.serial ? [phone.serial] : []))
  if (serials.length < 2) throw new Problem('NotPlugged')
  try {
    await client.query('savepoint starting')
    return (await insertRun(client, { ticketId: ticket.id, type, serials, staffId })).id
  } catch (error) {
    if (sqlState(error) !== 'unique_violation') throw error
    await client.query('rollback to savepoint starting')
    throw new Problem('PhoneBusy')
  }
}

export function startCountIn(services: Services, number: string, staffId: number): Promise<number> {
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    if (kinds.some((kind) => kind.frozen_at)) throw new Problem('RolesFrozen')
    // counting in again starts afresh
    if (!(await maybeActiveRun(client, ticket.id))) {
      await client.query('delete from entry where ticket_id = $1', [ticket.id])
      await client.query('update ticket_kind set old_reading = null, first_reading = null where ticket_id = $1', [ticket.id])
      await client.query('delete from reading where ticket_id = $1', [ticket.id])
    }
    return startRun(client, { ticket, type: 'count-in', phones, staffId })
  })
}

/** Changes what is carried. @throws Problem `ModeNotOffered`, `KindUnknown`, `StageNotReached`, `PhoneBusy` */
export function choose(services: Services, number: string, { kind, body }: { kind: string; body: z.infer<typeof chooseBody> }): Promise<void> {
  if (body.mode !== 'add') throw new Problem('ModeNotOffered')
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    const row = kinds.find((k) => k.kind === kind)
    if (!row) throw new Problem('KindUnknown')
    if (!row.old_reading) throw new Problem('StageNotReached')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const scope = { ticketId: ticket.id, kind }
    if (body.choice !== 'some') await chooseAll(client, { ...scope, isChosen: body.choice === 'all' })
    for (const isChosen of [true, false]) {
      const seqs = body.set.filter((entry) => entry.isChosen === isChosen).map((entry) => Number(entry.key.replace('old-', '')))
      if (seqs.length > 0) await chooseSome(client, { ...scope, seqs, isChosen })
    }
    await client.query('update ticket_kind set choice = $3, chosen_at = now() where ticket_id = $1 and kind = $2', [ticket.id, kind, body.choice])
  })
}

/** Starts carrying what the forecast said. @throws Problem `ForecastNotSeen`, `NewPhoneFuller`, `NothingChosen`, `StageNotReached` */
export function startCarry(services: Services, number: string, { body, staffId }: { body: z.infer<typeof carryBody>; staffId: number }): Promise<number> {
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    const active = await maybeActiveRun(client, ticket.id)
    if (active?.type === 'carry') return active.id
    if (kinds.some((kind) => !kind.old_reading || !kind.first_reading)) throw new Problem('StageNotReached')
    const { write } = findModel(phones.find((phone) => phone.side === 'new')!).capability.contacts
    if ('cannot' in write) throw new Problem('PermissionMissing')
    let waiting = 0
    for (const kind of kinds) {
      const forecast = await readForecast(client, kind)
      if (body.seen[kind.kind] !== forecast.seen) throw new Problem('ForecastNotSeen')
      waiting += forecast.counts.carried + forecast.counts.changed + forecast.counts.alreadyThere
    }
    if (waiting === 0) throw new Problem('NothingChosen')
    if (!ticket.exchange_answered_at && !ticket.roles_frozen_at) {
      const [row] = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
      if (row && looksExchanged(row.old.read, row.new.first ?? 0)) {
        if (!body.confirmRoles) throw new Problem('NewPhoneFuller', { oldItems: row.old.read, newItems: row.new.first })
        await client.query('update ticket set exchange_answered_at = now() where id = $1', [ticket.id])
      }
    }
    return startRun(client, { ticket, type: 'carry', phones, staffId })
  })
}

export function startCheck(services: Services, number: string, staffId: number): Promise<number> {
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    if (kinds.some((kind) => !kind.frozen_at)) throw new Problem('StageNotReached')
    return startRun(client, { ticket, type: 'check-off', phones, staffId })
  })
}

/** Puts what was lost back among what waits, so that it is carried again. Answers how many. */
export function carryLostAgain(services: Services, number: string, kind: string): Promise<number> {
  return onTicket(services, number, async (client, ticket) => {
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const { rowCount } = await client.query(
      `update entry set fate = 'pending', written = null, sends = 0 where ticket_id = $1 and kind = $2 and fate = 'lost'`,
      [ticket.id, kind],
    )
    return rowCount ?? 0
  })
}

/** The customer accepts a difference by name; it holds for these figures only. @throws Problem `NothingToAccept` */
export function acceptDifference(services: Services, number: string, { kind, by }: { kind: string; by: string }): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    const row = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!.find((r) => r.kind === kind)
    if (!row) throw new Problem('KindUnknown')
    if (row.verdict !== 'differs') throw new Problem('NothingToAccept')
    const keys = ticketKeys(services.config.masterKey, ticket.key_wrapped!)
    await client.query(
      `update ticket_kind set accepted_by = $3, accepted_at = now(), accepted_short = $4, accepted_over = $5 where ticket_id = $1 and kind = $2`,
      [ticket.id, kind, sealText(keys, 'accepted', by), row.short, row.over],
    )
  })
}

/** Stops the ticket's run; it can be started again where it stopped. @throws Problem `RunNotFound` */
export function stopTicketRun(services: Services, number: string): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    const run = await maybeActiveRun(client, ticket.id)
    if (!run) throw new Problem('RunNotFound')
    await stopRun(client, run.id)
  })
}

export function show(services: Services, number: string, { reason, staffId }: { reason: string; staffId: number }): Promise<void> {
  return onTicket(services, number, (client, ticket) =>
    insertShowing(client, { ticketId: ticket.id, number: ticket.number, staffId, scope: reason === 'ended' ? 'ended' : 'names', reason }),
  )
}

/** The sheet is signed. @throws Problem `NotAgreed` */
export function sign(services: Services, number: string, by: string): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
    if (!mayHandOver(ledger) || (await maybeActiveRun(client, ticket.id))) throw new Problem('NotAgreed')
    const keys = ticketKeys(services.config.masterKey, ticket.key_wrapped!)
    await client.query('update ticket set signed_by = $2, signed_at = now() where id = $1', [ticket.id, sealText(keys, 'signed', by)])
  })
}

interface TicketParts {
  readonly phones: PhoneRow[]
  readonly kinds: KindRow[]
}

/** Works on a ticket that is still open, alone, and tells every page afterwards. @throws Problem `TicketNotFound`, `TicketErased` */
export async function onTicket<T>(services: Services, number: string, work: (client: pg.PoolClient, ticket: TicketRow, parts: TicketParts) => Promise<T>): Promise<T> {
  return transaction(services.pool, async (client) => {
    await client.query('select 1 from ticket where number = $1 for update', [number])
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (ticket.erased_at) throw new Problem('TicketErased')
    const parts = { phones: await manyPhones(client, [ticket.id]), kinds: await manyKinds(client, [ticket.id]) }
    const result = await work(client, ticket, parts)
    await tellTicket(client, ticket.id, 'changed')
    return result
  })
}

