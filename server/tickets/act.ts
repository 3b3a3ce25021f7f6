import type { z } from 'zod'
import type { wayOutBody } from '#contracts/http/media.ts'
import type { BookIn, carryBody, chooseBody, ForecastView } from '#contracts/http/ticket.ts'
import { kindOf, kinds as registered } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import type { PortView } from '#contracts/link/index.ts'
import { guideKinds } from '#core/phones/guide-schema.ts'
import { isIntakeAnswer, judgeIntake } from '#core/phones/intake.ts'
import { looksExchanged } from '#core/plan/guards.ts'
import { keepBench } from '../bench/keeper.ts'
import { readBench } from '../bench/ports.ts'
import { one, sqlState, transaction, type Client } from '../db/sql.ts'
import { readGuides } from '../guide/guides.ts'
import { Problem } from '../http/problem.ts'
import { readMediaPlan, type PlanPhones } from '../plan/media-plan.ts'
import { takeWay } from '../plan/media.queries.ts'
import { chooseAll, chooseSlice, chooseSome, fitPlan, leaveByHand } from '../plan/entries.queries.ts'
import { readReadyRows, readSide } from '../ready/ready.ts'
import { readLedgers } from '../ledger/ledger.ts'
import { maybeActiveRun, pauseByHand, resumeByHand, stopRun } from '../runs/runs.queries.ts'
import { startRun } from '../runs/start-run.ts'
import { newWrappedKey, sealText, ticketKeys } from '../seal/keys.ts'
import type { Services } from '../services.ts'
import { insertShowing } from '../showing/showing.queries.ts'
import { findUpload } from '../uploads/uploads.queries.ts'
import { readForecast } from './read-ticket.ts'
import { mayHandOver } from './stage.ts'
import { facets } from './facets.ts'
import { onTicket } from './on-ticket.ts'
import { forgetReadings } from './roles.ts'
import { setChoice, setFirstKind, tellTicket, type PhoneRow, type TicketRow } from './tickets.queries.ts'

/** Books a ticket in. @throws Problem `SamePhoneTwice`, `PhoneOnOtherTicket`, `FileUnreadable`, `BadRequest` */
export async function bookIn(services: Services, body: BookIn, staffId: number): Promise<string> {
  const { pool, config } = services
  const serialOf = (phone: BookIn['old']) => (phone.link === 'file' ? (phone.upload ? `file-${phone.upload}` : null) : phone.serial)
  const serials = [serialOf(body.old), serialOf(body.new)]
  if (serials[0] !== null && serials[0] === serials[1]) throw new Problem('SamePhoneTwice')
  if (body.new.link === 'file') throw new Problem('BadRequest', { fields: ['new'] })
  for (const kind of body.kinds)
    if (!(guideKinds as readonly string[]).includes(kind) && !registered.some((k) => k.code === kind))
      throw new Problem('BadRequest', { fields: ['kinds'] })
  for (const [code, answer] of Object.entries(body.intake))
    if (!isIntakeAnswer(code, answer)) throw new Problem('BadRequest', { fields: [`intake.${code}`] })
  if (judgeIntake(body.intake).verdict === 'no') throw new Problem('MustNotTake')
  const carried = carriedKinds(services, body)
  const wrapped = newWrappedKey(config.masterKey, 'ticket')
  const keys = ticketKeys(config.masterKey, wrapped)
  try {
    const booked = await transaction(pool, async (client) => {
      if (body.old.link === 'file' && !(body.old.upload && (await findUpload(client, body.old.upload)))) throw new Problem('FileUnreadable')
      const { id, number } = await one<{ id: number; number: string }>(
        client,
        `insert into ticket (key_wrapped, customer, promised_at, waits_in_shop, booked_by, held_by, wanted, intake)
         values ($1, $2, $3, $4, $5, $5, $6, $7) returning id, number`,
        [
          wrapped,
          sealText(keys, 'customer', JSON.stringify(body.customer)),
          body.promisedAt,
          body.waitsInShop,
          staffId,
          [...new Set(body.kinds)],
          JSON.stringify(body.intake),
        ],
      )
      for (const [i, side] of (['old', 'new'] as const).entries()) {
        const { link, maker, model, platform, version, upload } = body[side]
        await client.query(
          `insert into ticket_phone (ticket_id, side, link, maker, model, platform, version, serial, upload_id) values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
          [id, side, link, maker, model, platform, version, serials[i], link === 'file' ? upload : null],
        )
      }
      for (const kind of carried) await client.query('insert into ticket_kind (ticket_id, kind) values ($1, $2)', [id, kind])
      await tellTicket(client, id, 'booked')
      return number
    })
    // how the phones stand now is how they were found: what is changed from here on is put back
    await keepBench(services).catch(() => undefined)
    return booked
  } catch (error) {
    if (sqlState(error) === 'unique_violation') throw new Problem('PhoneOnOtherTicket')
    throw error
  }
}

/** Of the wanted kinds, those this version carries: each has a row in the ledger. */
function carriedKinds(services: Services, { kinds }: BookIn): string[] {
  const carried = [...new Set(kinds)].filter((kind) => registered.some((k) => k.code === kind))
  if (carried.length === 0) throw new Problem('BadRequest', { fields: ['kinds'] })
  return carried
}

/** Counts both phones in; counting in again starts afresh. @throws Problem `PhonesNotReady`, `BatteryLow`, `RolesFrozen`, `TicketRests` */
export async function startCountIn(services: Services, number: string, staffId: number): Promise<number> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, parts) => {
    const { phones, kinds } = parts
    if (kinds.some((kind) => kind.frozen_at)) throw new Problem('RolesFrozen')
    if (!(await maybeActiveRun(client, ticket.id))) {
      await mustBeReady(client, services, { ticket, phones, ports })
      await forgetReadings(client, ticket.id)
    }
    return startRun(client, { ticket, type: 'count-in', phones, staffId })
  })
}

/** Nothing starts while a phone lacks what must be; a phone that runs low is named by its own sentence. */
async function mustBeReady(
  client: Client,
  services: Services,
  { ticket, phones, ports }: { ticket: TicketRow; phones: readonly PhoneRow[]; ports: readonly PortView[] },
): Promise<void> {
  if (ticket.resting_at) throw new Problem('TicketRests')
  const rows = await readReadyRows(client, [ticket.id])
  const guides = readGuides(services)
  for (const side of ['old', 'new'] as const) {
    const { isReady, next } = readSide({ ticket, phones, side, ports, guides, rows })
    if (!isReady) throw new Problem(next?.need.code === 'charge' ? 'BatteryLow' : 'PhonesNotReady', { side, need: next?.need.code })
  }
}

/** Changes what is carried. @throws Problem `ModeNotOffered`, `KindUnknown`, `StageNotReached`, `PhoneBusy` */
export function choose(
  services: Services,
  number: string,
  { kind, body }: { kind: string; body: z.infer<typeof chooseBody> },
): Promise<void> {
  if (body.mode !== 'add') throw new Problem('ModeNotOffered')
  return onTicket(services, number, async (client, ticket, { kinds, phones }) => {
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
    if (body.slice) {
      const { facet, ...slice } = body.slice
      if (facet && !facets[facet]) throw new Problem('BadRequest', { fields: ['slice.facet'] })
      await chooseSlice(client, scope, { ...slice, facetSql: facets[facet] ?? null })
    }
    const capacity = kindOf(kind).capacity?.(findModel(phones.find((phone) => phone.side === 'new')!))
    if (row.first_reading && (!row.frozen_at || capacity !== undefined))
      await fitPlan(client, { ...scope, firstReading: row.first_reading, capacity })
    await setChoice(client, scope, body.choice)
  })
}

/** Starts carrying what the forecast said. @throws Problem `ForecastNotSeen`, `NewPhoneFuller`, `NothingChosen`, `StageNotReached`, `PhonesNotReady`, `BatteryLow` */
export async function startCarry(
  services: Services,
  number: string,
  { body, staffId }: { body: z.infer<typeof carryBody>; staffId: number },
): Promise<number> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    const active = await maybeActiveRun(client, ticket.id)
    if (active?.type === 'carry') return active.id
    if (kinds.some((kind) => !kind.old_reading || !kind.first_reading)) throw new Problem('StageNotReached')
    await mustBeReady(client, services, { ticket, phones, ports })
    let waiting = 0
    const forecasts: ForecastView[] = []
    for (const kind of kinds) {
      const forecast = await readForecast(client, kind)
      forecasts.push(forecast)
      if (body.seen[kind.kind] !== forecast.seen) throw new Problem('ForecastNotSeen')
      waiting += forecast.counts.carried + forecast.counts.changed + forecast.counts.alreadyThere
    }
    if (waiting === 0) throw new Problem('NothingChosen')
    const { space } = await readMediaPlan(client, kinds, { forecasts, phones: factsOf(phones, ports) })
    if (space && !space.fits)
      throw new Problem('DoesNotFit', { neededBytes: space.neededBytes, shortBytes: space.shortBytes, reserveBytes: space.reserveBytes })
    if (!ticket.exchange_answered_at && !ticket.roles_frozen_at) {
      const rows = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
      const [oldItems, newItems] = [
        rows.reduce((sum, row) => sum + row.old.read, 0),
        rows.reduce((sum, row) => sum + (row.new.first ?? 0), 0),
      ]
      if (looksExchanged(oldItems, newItems)) {
        if (!body.confirmRoles) throw new Problem('NewPhoneFuller', { oldItems, newItems })
        await client.query('update ticket set exchange_answered_at = now() where id = $1', [ticket.id])
      }
    }
    return startRun(client, { ticket, type: 'carry', phones, staffId })
  })
}

/** What the bench says of both phones now. */
export function factsOf(phones: readonly PhoneRow[], ports: readonly PortView[]): PlanPhones {
  const of = (side: 'old' | 'new') => {
    const serial = phones.find((phone) => phone.side === side)?.serial
    return (serial && ports.find(({ phone }) => phone?.facts.serial === serial)?.phone?.facts) || null
  }
  return { old: of('old'), new: of('new') }
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

/** Pauses the ticket's run at the next record or file: it goes on from there when it is resumed. @throws Problem `RunNotFound` */
export function pauseTicketRun(services: Services, number: string): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    const run = await maybeActiveRun(client, ticket.id)
    if (!run) throw new Problem('RunNotFound')
    await pauseByHand(client, run.id)
  })
}

/** @throws Problem `NotPaused` */
export function resumeTicketRun(services: Services, number: string): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    const run = await maybeActiveRun(client, ticket.id)
    if (!run || (await resumeByHand(client, run.id)) === 0) throw new Problem('NotPaused')
  })
}

/** Puts a fragile phone's dearest kind before all others; null for the usual order. @throws Problem `KindUnknown`, `PhoneBusy` */
export function putFirst(services: Services, number: string, kind: string | null): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    if (kind !== null && !kinds.some((row) => row.kind === kind)) throw new Problem('KindUnknown')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    await setFirstKind(client, ticket.id, kind)
  })
}

/** Leaves behind what has no room, by one of the ways out. @throws Problem `StageNotReached`, `PhoneBusy`, `KindUnknown` */
export function takeWayOut(services: Services, number: string, { way, sinceYear }: z.infer<typeof wayOutBody>): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    const photos = kinds.find((row) => row.kind === 'photos')
    if (!photos) throw new Problem('KindUnknown')
    if (!photos.old_reading) throw new Problem('StageNotReached')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    await takeWay(client, { ticketId: ticket.id, kind: photos.kind }, way === 'since-year' ? { sinceYear: sinceYear! } : way)
    await setChoice(client, { ticketId: ticket.id, kind: photos.kind }, 'some')
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

/** The sheet is signed: it is final only when every setting is put back or waived by name. @throws Problem `NotAgreed`, `PutBackOpen` */
export async function sign(services: Services, number: string, by: string): Promise<void> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
    if (await isPutBackOpen(client, services, { ticket, phones, ports })) throw new Problem('PutBackOpen')
    if (!mayHandOver(ledger) || (await maybeActiveRun(client, ticket.id))) throw new Problem('NotAgreed')
    // what is still to be installed by hand is the customer's from here on
    for (const { kind } of kinds) if (kindOf(kind).byHand) await leaveByHand(client, { ticketId: ticket.id, kind })
    const keys = ticketKeys(services.config.masterKey, ticket.key_wrapped!)
    await client.query('update ticket set signed_by = $2, signed_at = now() where id = $1', [ticket.id, sealText(keys, 'signed', by)])
  })
}

async function isPutBackOpen(
  client: Client,
  services: Services,
  { ticket, phones, ports }: { ticket: TicketRow; phones: readonly PhoneRow[]; ports: readonly PortView[] },
): Promise<boolean> {
  const rows = await readReadyRows(client, [ticket.id])
  const guides = readGuides(services)
  return (['old', 'new'] as const).some((side) =>
    readSide({ ticket, phones, side, ports, guides, rows }).putBack.some(({ state }) => state === 'open'),
  )
}
