import { kindOf, kinds } from '#core/kinds/registry.ts'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import type { Actor } from '../../base/did.ts'
import { Problem } from '../../base/problem.ts'
import { openContents } from '../../vault/contents.ts'
import { createToolsFor } from '../../vault/read-tools.ts'
import type { Services } from '../../base/services.ts'
import { ticketKind } from '../guard.ts'
import { maybeShowing } from '../../vault/showing.queries.ts'
import { insertAct } from '../../case/acts.queries.ts'
import { manyPhones, maybeTicket } from '../../case/tickets.queries.ts'
import { manyReadItems } from '../../book/listing/files.queries.ts'
import { holdingKeys } from '../../vault/holdings.ts'

/** Items opened and written at a time: a file of any size needs the memory of so many. */
const atOnce = 500

export interface FileOut {
  /** Of the ticket and the kind; nothing of the customer's. */
  readonly name: string
  readonly mediaType: string
  readonly bytes: AsyncGenerator<Buffer>
}

/**
 * What the old phone holds of a kind, as it was last read, as a file of an open format; while showing is allowed. What
 * could not be read is not in it.
 * @throws Problem `TicketNotFound`, `TicketErased`, `KindUnknown`, `ShowingNotAllowed`, `StageNotReached`
 */
export async function writeFile(
  services: Services,
  number: string,
  { kind: code, format, actor }: { kind: string; format: string; actor: Actor },
): Promise<FileOut> {
  const { pool, config } = services
  const ticket = await maybeTicket(pool, number)
  if (!ticket) throw new Problem('TicketNotFound')
  if (!ticket.holding) throw new Problem('TicketErased')
  const file = kinds.some((kind) => kind.code === code) ? kindOf(code).openFiles?.find((f) => f.code === format) : undefined
  if (!file) throw new Problem('KindUnknown')
  if (!(await maybeShowing(pool, ticket.id, actor.id))) throw new Problem('ShowingNotAllowed')
  const row = await ticketKind(pool, ticket.id, code)
  const readingId = row.recount_reading ?? row.old_reading
  if (!readingId) throw new Problem('StageNotReached')
  const old = (await manyPhones(pool, [ticket.id])).find((phone) => phone.side === 'old')!
  const keys = holdingKeys(config, ticket.holding)
  const tools = createToolsFor(ticket.created_at.getTime())(old)
  const toNumber = createNumberReader(old.region)
  await insertAct(pool, ticket.id, actor.id, { what: 'file-out', kind: code, code: format })
  const kind = kindOf(code)
  async function* bytes() {
    if (file!.head) yield Buffer.from(file!.head)
    for (let after = -1; ;) {
      const places = await manyReadItems(pool, { readingId: readingId!, after, limit: atOnce })
      if (places.length === 0) break
      after = places.at(-1)!.seq
      const pieces = (await openContents(pool, keys, places)).flatMap((body, i) => {
        const read = kind.read(body, tools)
        return read.ok ? [Buffer.from(file!.write(read.item, { position: places[i]!.seq + 1, number: toNumber }))] : []
      })
      yield Buffer.concat(pieces)
    }
    if (file!.tail) yield Buffer.from(file!.tail)
  }
  return { name: `${number}-${code}.${file.extension}`, mediaType: file.mediaType, bytes: bytes() }
}
