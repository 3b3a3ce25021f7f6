import type { z } from 'zod'
import type { carryBody } from '#contracts/http/ticket.ts'
import { looksExchanged } from '#core/plan/guards.ts'
import type { Actor } from '../../base/did.ts'
import type { Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { readLedgers } from '../../book/ledger.ts'
import { voidIfMoved } from '../../book/signed.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { answerExchange, setStraight, type KindRow, type TicketRow } from '../../case/tickets.queries.ts'
import { readBench } from '../../endpoints/ports.ts'
import { holdRun, maybeActiveRun, resumeRun, stopRun } from '../../runs/runs.queries.ts'
import { startRun } from '../../runs/start-run.ts'
import { factsOf, readMediaPlan } from '../choose/media-plan.ts'
import { readForecasts } from '../choose/forecast.ts'
import { mayDo } from '../guard.ts'
import { mustBeReady } from '../ready/must-be-ready.ts'
import type { RunId, TicketId } from '../../base/ids.ts'

/**
 * Starts carrying what the forecast said. Where nothing waits, both phones are frozen as they are and checked.
 * @throws Problem `ForecastNotSeen`, `NewPhoneFuller`, `StageNotReached`, `PhonesNotReady`, `BatteryLow`, `DoesNotFit`
 */
export async function startCarry(
  services: Services,
  number: string,
  { body, actor }: { body: z.infer<typeof carryBody>; actor: Actor },
): Promise<number> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    const active = await maybeActiveRun(client, ticket.id)
    if (active?.type === 'carry') return active.id
    await mayDo(client, 'carry', { ticket, kinds })
    await mustBeReady(client, services, { ticket, phones, ports })
    const forecasts = await readForecasts(client, kinds)
    if (forecasts.some((forecast) => body.stamps[forecast.kind] !== forecast.stamp)) throw new Problem('ForecastNotSeen')
    const { space } = await readMediaPlan(client, kinds, { forecasts, phones: factsOf(phones, ports) })
    if (space && !space.fits)
      throw new Problem('DoesNotFit', { neededBytes: space.neededBytes, shortBytes: space.shortBytes, reserveBytes: space.reserveBytes })
    const mixed = await mixedUp(client, ticket, kinds)
    if (mixed) {
      if (!body.confirmRoles) throw new Problem('NewPhoneFuller', { ...mixed })
      await answerExchange(client, ticket.id)
    }
    return startRun(client, { ticket, type: 'carry', phones, ports, actor })
  })
}

/** Whether the phones look mixed up, and nobody has said yet that they are not: how much is on each. */
export async function mixedUp(
  client: Client,
  ticket: TicketRow,
  kinds: readonly KindRow[],
): Promise<{ oldItems: number; newItems: number } | undefined> {
  if (ticket.exchange_answered_at || ticket.roles_frozen_at) return undefined
  const rows = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
  const oldItems = rows.reduce((sum, row) => sum + row.old.read, 0)
  const newItems = rows.reduce((sum, row) => sum + (row.new.first ?? 0), 0)
  return looksExchanged(oldItems, newItems) ? { oldItems, newItems } : undefined
}

/** Works on the ticket's run. @throws Problem `RunNotFound` */
function onRun(
  services: Services,
  number: string,
  work: (client: Client, runId: RunId) => Promise<number>,
  none: 'RunNotFound' | 'NotPaused',
  after: (client: Client, ticketId: TicketId) => Promise<void> = async () => undefined,
) {
  return onTicket(services, number, async (client, ticket) => {
    const run = await maybeActiveRun(client, ticket.id)
    if (!run || (await work(client, run.id)) === 0) throw new Problem(none)
    await after(client, ticket.id)
  })
}

/** Pauses the ticket's run at the next record or file: it goes on from there when it is resumed. @throws Problem `RunNotFound` */
export function pauseTicketRun(services: Services, number: string): Promise<void> {
  return onRun(services, number, holdRun, 'RunNotFound')
}

/** @throws Problem `NotPaused` */
export function resumeTicketRun(services: Services, number: string): Promise<void> {
  return onRun(services, number, resumeRun, 'NotPaused')
}

/** Stops the ticket's run, and what would go on by itself; it can be started again where it stopped. @throws Problem `RunNotFound` */
export function stopTicketRun(services: Services, number: string): Promise<void> {
  return onRun(services, number, stopRun, 'RunNotFound', async (client, ticketId) => {
    await setStraight(client, ticketId, null)
    await voidIfMoved(client, ticketId)
  })
}
