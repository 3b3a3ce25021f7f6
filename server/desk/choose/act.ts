import type { z } from 'zod'
import type { wayOutBody } from '#contracts/http/media.ts'
import type { chooseBody } from '#contracts/http/ticket.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { byStorage } from '../../book/listing/listing.queries.ts'
import { chooseAll, chooseSlice, chooseSome } from '../../book/entries/entries.queries.ts'
import { takeWay } from '../../book/entries/media.queries.ts'
import { facetSql } from '../../book/listing/facets.ts'
import { fitPlan, unbar } from '../../book/plan/plan.queries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { setChoice, setFirstKind } from '../../case/tickets.queries.ts'
import { kindRow, mayDo } from '../guard.ts'
import { kindsWithWay } from './media-plan.ts'

/**
 * Changes what is carried, of all that is not on its way or over; after a stop, and after a check, too.
 * @throws Problem `ModeNotOffered`, `KindUnknown`, `OldNotRead`, `PhoneBusy`
 */
export function choose(
  services: Services,
  number: string,
  { kind, body }: { kind: string; body: z.infer<typeof chooseBody> },
): Promise<void> {
  if (body.mode !== 'add') throw new Problem('ModeNotOffered')
  return onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    const row = kindRow(kinds, kind)
    await mayDo(client, 'choose', { ticket, kinds: [row] })
    const scope = { ticketId: ticket.id, kind }
    // what only had no room may be chosen, or left, like all else
    await unbar(client, scope)
    if (body.choice !== 'some') await chooseAll(client, { ...scope, isChosen: body.choice === 'all' })
    for (const isChosen of [true, false]) {
      const seqs = body.set.filter((entry) => entry.isChosen === isChosen).map((entry) => Number(entry.key.replace('old-', '')))
      if (seqs.length > 0) await chooseSome(client, { ...scope, seqs, isChosen })
    }
    if (body.slice) {
      const { facet, ...slice } = byStorage(body.slice)
      const sql = facetSql(facet)
      if (facet && !sql) throw new Problem('BadRequest', { fields: ['slice.facet'] })
      await chooseSlice(client, scope, { ...slice, facetSql: sql ?? null })
    }
    const { capacity, hasIdentity = false } = kindOf(kind)
    const target = findModel(phones.find((phone) => phone.side === 'new')!)
    if (row.first_reading) await fitPlan(client, { ...scope, firstReading: row.first_reading, capacity: capacity?.(target), hasIdentity })
    await setChoice(client, scope, body.choice)
  })
}

/** Puts a fragile phone's dearest kind before all others; null for the usual order. @throws Problem `KindUnknown`, `PhoneBusy` */
export function putFirst(services: Services, number: string, kind: string | null): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    if (kind !== null) kindRow(kinds, kind)
    await mayDo(client, 'putFirst', { ticket, kinds })
    await setFirstKind(client, ticket.id, kind)
  })
}

/** Leaves behind what has no room, by one of the ways out. @throws Problem `OldNotRead`, `PhoneBusy`, `KindUnknown` */
export function takeWayOut(
  services: Services,
  number: string,
  { way, sinceYear, kind }: Pick<z.infer<typeof wayOutBody>, 'way'> & Partial<z.infer<typeof wayOutBody>>,
): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    const rows = kindsWithWay(kinds, way).filter((row) => way !== 'without' || row.kind === kind)
    if (rows.length === 0) throw new Problem('KindUnknown')
    await mayDo(client, 'choose', { ticket, kinds: rows })
    for (const row of rows) {
      const scope = { ticketId: ticket.id, kind: row.kind }
      if (way === 'without') await chooseAll(client, { ...scope, isChosen: false })
      else await takeWay(client, scope, way === 'since-year' ? { sinceYear: sinceYear! } : way)
      await setChoice(client, scope, way === 'without' ? 'none' : 'some')
    }
  })
}
