import { kindOf } from '#core/kinds/registry.ts'
import { maybeOne, snapshot } from '../db/sql.ts'
import { Problem } from '../http/problem.ts'
import { openContents } from '../readings/contents.ts'
import { ticketKeys } from '../seal/keys.ts'
import type { Services } from '../services.ts'
import { maybeShowing } from '../showing/showing.queries.ts'
import { readTools } from '../readings/read-tools.ts'
import { manyPhones, maybeTicket, oneKind } from './tickets.queries.ts'

interface Wanted {
  readonly kind: string
  readonly key: string
  readonly filter: string
  readonly staffId: number
}

/** One item with its fields, while showing is allowed. @throws Problem `ShowingNotAllowed`, `NotFound` */
export async function readItem(services: Services, number: string, { kind: code, key, filter, staffId }: Wanted) {
  return snapshot(services.pool, async (client) => {
    const ticket = await maybeTicket(client, number)
    if (!ticket) throw new Problem('TicketNotFound')
    if (!ticket.key_wrapped) throw new Problem('TicketErased')
    if (!(await maybeShowing(client, ticket.id, staffId))) throw new Problem('ShowingNotAllowed')
    const kind = await oneKind(client, ticket.id, code)
    const [side, seq] = key.split('-') as ['old' | 'new', string]
    const isGone = ['first', 'missing', 'absorbed', 'cleared'].includes(filter)
    const place =
      side === 'old'
        ? await maybeOne<{ reading_id: number; block: number; slot: number }>(
            client,
            `select e.reading_id, i.block, i.slot
               from entry e join item i on i.reading_id = e.reading_id and i.seq = e.item_seq
              where e.ticket_id = $1 and e.kind = $2 and e.seq = $3`,
            [ticket.id, code, Number(seq)],
          )
        : await maybeOne<{ reading_id: number; block: number; slot: number }>(
            client,
            `select reading_id, block, slot from item where reading_id = $1 and seq = $2`,
            [isGone ? kind.first_reading : kind.last_reading, Number(seq)],
          )
    if (!place) throw new Problem('NotFound')
    const [body] = await openContents(client, ticketKeys(services.config.masterKey, ticket.key_wrapped), [place])
    const phone = (await manyPhones(client, [ticket.id])).find((p) => p.side === side)!
    const read = kindOf(code).read(body!, readTools(phone, ticket.created_at.getTime()))
    return read.ok ? kindOf(code).describe(read.item) : { title: '', lines: [{ field: 'unreadable', text: read.code }] }
  })
}
