import type { z } from 'zod'
import type { straightBody } from '#contracts/http/ticket.ts'
import { agreeTo, stopOf, type StraightFacts, type StraightLimits, type StraightStop } from '#core/plan/straight.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { Actor } from '../base/did.ts'
import { snapshot, transaction } from '../base/db/sql.ts'
import { patience } from '../base/patience.ts'
import { Problem } from '../base/problem.ts'
import { perShop } from '../base/per-shop.ts'
import type { Services } from '../base/services.ts'
import { insertAct } from '../case/acts.queries.ts'
import { onTicket, type TicketRows } from '../case/on-ticket.ts'
import { manyKinds, manyPhones, manyStraight, maybeTicket, setStraight, setStraightStop, tellTicket } from '../case/tickets.queries.ts'
import { readBench } from '../endpoints/ports.ts'
import { guidePair } from '../ready/guide-views.ts'
import { mixedUp, startCarry } from './carry/act.ts'
import { readForecasts } from './choose/forecast.ts'
import { factsOf, readMediaPlan } from './choose/media-plan.ts'
import { startCountIn } from './count-in/act.ts'
import { mayDo } from './guard.ts'
import type { TicketId } from '../base/ids.ts'

/**
 * Has a ticket run by itself from ready phones to the check, or no longer. What was foretold for the pair at booking is
 * its limit; `agree` adds what it stopped for. @throws Problem `TicketSigned`, `TicketCalledOff`
 */
export function setStraightThrough(
  services: Services,
  number: string,
  { body, actor }: { body: z.infer<typeof straightBody>; actor: Actor },
): Promise<void> {
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    await mayDo(client, 'straight', { ticket, kinds })
    if (!body.on) return setStraight(client, ticket.id, null)
    const limits = ticket.straight?.limits ?? foretoldFor(services, { phones, kinds })
    await setStraight(client, ticket.id, {
      staffId: actor.id,
      by: actor.name,
      since: ticket.straight?.since ?? new Date(services.clock.now()).toISOString(),
      limits: body.agree && ticket.straight_stop ? agreeTo(limits, ticket.straight_stop) : limits,
    })
  })
}

/** What a limit named at booking comes to: “only the newest 500”, “names of 22 characters”. */
const byLimit: Readonly<Record<string, readonly string[]>> = {
  newest: ['no-room'],
  items: ['no-room'],
  numbers: ['numbers-dropped', 'numbers-to-note'],
  nameChars: ['name-cut'],
}

/** What the customer could be told at booking: the losses the pair forces. */
function foretoldFor(services: Services, { phones, kinds }: TicketRows): StraightLimits {
  const [old, now] = (['old', 'new'] as const).map((side) => phones.find((phone) => phone.side === side)!)
  const crossings = guidePair(services, { old: old!, new: now! })
  return {
    foretold: Object.fromEntries(
      kinds.map(({ kind: code }) => {
        const kind = kindOf(code)
        const crossing = crossings.find((c) => c.kind === code)
        const changes = (crossing?.changes ?? []).map((change) => change.code)
        return [
          code,
          [
            ...changes,
            ...Object.keys(crossing?.limits ?? {}).flatMap((limit) => byLimit[limit] ?? []),
            ...(crossing?.rule ? [crossing.rule] : []),
            // that apps are installed by hand, begin empty, or have none to stand in is said with this one
            ...(changes.includes('counterparts-only') ? [...(kind.byHand ?? []), ...Object.keys(kind.changes), ...kind.rules] : []),
          ],
        ]
      }),
    ),
    agreed: [],
  }
}

/** When a ticket that waits for somebody was last looked at. */
const lookedAtOf = perShop(() => new Map<string, number>())

/**
 * Takes every ticket that runs by itself one step on, where nothing runs and nobody has to decide. One that waits for a
 * decision is looked at now and then: it may have been made in another way.
 */
export async function advanceStraight(services: Services): Promise<void> {
  const nowMs = services.clock.now()
  const lookedAt = lookedAtOf(services)
  for (const { number, has_stop: hasStop } of await manyStraight(services.pool)) {
    if (hasStop && nowMs - (lookedAt.get(number) ?? 0) < patience.straight.everyMs) continue
    lookedAt.set(number, nowMs)
    await advance(services, number).catch((error: unknown) => {
      // what a phone lacks is said where it is made ready; another hand was first
      if (!(error instanceof Problem)) throw error
    })
  }
}

async function advance(services: Services, number: string): Promise<void> {
  const { ports } = await readBench(services)
  const look = await snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket?.straight) return undefined
    const parts = { kinds: await manyKinds(client, [ticket.id]), phones: await manyPhones(client, [ticket.id]) }
    if (!parts.kinds.every((kind) => kind.old_reading && kind.first_reading)) return { ticket, read: null }
    const forecasts = await readForecasts(client, parts.kinds)
    const plan = await readMediaPlan(client, parts.kinds, { forecasts, phones: factsOf(parts.phones, ports) })
    const facts: StraightFacts = {
      looksExchanged: (await mixedUp(client, ticket, parts.kinds)) !== undefined,
      fits: plan.space?.fits ?? true,
      kinds: forecasts.map(({ kind, changes, rules, onBoth }) => ({
        kind,
        losses: [
          ...changes.filter(({ code }) => kindOf(kind).changes[code]?.loss),
          // what the old phone can't give is nobody's to decide
          ...rules.filter(({ fate }) => fate === 'cannotCross'),
        ],
        onBoth: onBoth.toJoin + onBoth.joined > 0 ? 0 : onBoth.all,
      })),
      overMs: services.clock.now() + plan.duration.highS * 1000,
      // as it is promised now; one that was over when it was set stands against nothing
      byMs: ticket.promised_at.getTime() > Date.parse(ticket.straight.since) ? ticket.promised_at.getTime() : null,
    }
    return { ticket, read: { facts, stamps: Object.fromEntries(forecasts.map((forecast) => [forecast.kind, forecast.stamp])) } }
  })
  if (!look) return
  const { straight, id } = look.ticket
  const actor = { id: straight!.staffId, name: straight!.by }
  const as = (what: 'count-in' | 'carry'): Services => ({ ...services, doing: { actor, did: [{ what, why: 'straight' }] } })
  if (!look.read) return void (await startCountIn(as('count-in'), number, actor))
  const stop = stopOf(straight!.limits, look.read.facts)
  if (stop) return noteStop(services, id, stop)
  if (look.ticket.straight_stop) await setStraightStop(services.pool, id, null)
  const body = { stamps: look.read.stamps, confirmRoles: straight!.limits.agreed.includes('roles') }
  await startCarry(as('carry'), number, { body, actor })
}

/** Notes what somebody must decide, once for each: the write itself says whether it is news. */
function noteStop({ pool }: Services, ticketId: TicketId, stop: StraightStop): Promise<void> {
  return transaction(pool, async (client) => {
    if (!(await setStraightStop(client, ticketId, stop))) return
    await insertAct(client, ticketId, null, { what: 'straight-stopped', code: stop.code })
    await tellTicket(client, ticketId, 'run')
  })
}
