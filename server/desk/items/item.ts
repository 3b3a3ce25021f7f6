import type { Actor } from '../../base/did.ts'
import { maybePlace } from '../../book/listing/places.queries.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { snapshot } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import { openContents } from '../../vault/contents.ts'
import type { Services } from '../../base/services.ts'
import { ticketKind } from '../guard.ts'
import { maybeShowing } from '../../vault/showing.queries.ts'
import { readTools } from '../../vault/read-tools.ts'
import { manyPhones, maybeTicket } from '../../case/tickets.queries.ts'
import { holdingKeys } from '../../vault/holdings.ts'

interface Wanted {
  readonly kind: string
  readonly key: string
  readonly filter: string
  readonly actor: Actor
}

/** One item with its fields, while showing is allowed. @throws Problem `ShowingNotAllowed`, `NotFound` */
export async function readItem(services: Services, number: string, { kind: code, key, filter, actor }: Wanted) {
  return snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (!ticket.holding) throw new Problem('TicketErased')
    if (!(await maybeShowing(client, ticket.id, actor.id))) throw new Problem('ShowingNotAllowed')
    const kind = await ticketKind(client, ticket.id, code)
    const [side, seq] = key.split('-') as ['old' | 'new', string]
    const isGone = ['first', 'missing', 'absorbed', 'cleared', 'firstPushedOut'].includes(filter)
    const place = await maybePlace(client, {
      ticketId: ticket.id,
      kind: code,
      seq: Number(seq),
      isOld: side === 'old',
      readingId: isGone ? kind.first_reading : kind.last_reading,
    })
    if (!place) throw new Problem('NotFound')
    const [body] = await openContents(client, holdingKeys(services.config, ticket.holding), [place])
    const phone = (await manyPhones(client, [ticket.id])).find((p) => p.side === side)!
    const read = kindOf(code).read(body!, readTools(phone, ticket.created_at.getTime()))
    if (!read.ok) return { title: '', lines: [{ field: 'unreadable', text: read.code }], issues: [] }
    const { title, lines } = kindOf(code).describe(read.item)
    return { title, lines, issues: [...new Set(read.issues)] }
  })
}
