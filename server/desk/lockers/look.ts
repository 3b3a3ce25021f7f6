import { randomUUID } from 'node:crypto'
import type { Actor } from '../../base/did.ts'
import type { CopyId, TicketId } from '../../base/ids.ts'
import { transaction } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { insertAct } from '../../case/acts.queries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { insertKind, insertPhone, insertTicket, manyStaleLooks, maybeLook, setErased, tellTicket } from '../../case/tickets.queries.ts'
import { serialOfCopy } from '../../endpoints/makers/locker.ts'
import { maybeActiveRun, stopRun } from '../../runs/runs.queries.ts'
import { insertHolding } from '../../vault/holdings.queries.ts'
import { newHolding } from '../../vault/holdings.ts'
import { sealText } from '../../vault/keys.ts'
import { kindsOfCopy } from '../book-in/kinds.ts'
import { startCountIn } from '../count-in/act.ts'
import { finishErasing } from '../hand-back/erase.ts'
import { copyToRead } from './act.ts'

/** How long a look stays open that nobody closes. Hours. */
const lookHours = 12

/**
 * Looks into a copy as into a phone: a case of its own whose old side it is, counted in and never carried; what is read
 * of it is sealed for the look alone and goes with it. Who looks already goes on.
 * @throws Problem `CopyNotFound`, `CopyGone`, `CopyNewer`, `CopyClosed`
 */
export async function lookInto(services: Services, copyId: CopyId, actor: Actor): Promise<string> {
  const open = await maybeLook(services.pool, { copyId, staffId: actor.id })
  if (open) return open
  const { id: holding, keys } = newHolding(services.config)
  const number = await transaction(services.pool, async (client) => {
    const copy = await copyToRead(client, copyId)
    const kinds = await kindsOfCopy(client, copyId)
    await insertHolding(client, { id: holding, purpose: 'look' })
    const { id, number } = await insertTicket(client, {
      holding,
      customer: sealText(keys, 'customer', JSON.stringify({ name: '', phone: '', note: '' })),
      promisedAt: new Date(services.clock.now() + lookHours * 3_600_000).toISOString(),
      waitsInShop: false,
      staffId: actor.id,
      wanted: kinds,
      intake: {},
      purpose: 'look',
    })
    const { maker, model, platform, version } = copy
    if (copy.is_closed) throw new Problem('CopyClosed')
    const none = { version: '', uploadId: null, copyId: null, copyKey: null }
    await insertPhone(client, id, 'old', { ...none, place: 'locker', maker, model, platform, version, serial: readingOf(copyId), copyId })
    await insertPhone(client, id, 'new', {
      ...none,
      place: 'nothing',
      maker: '',
      model: '',
      platform: 'locker',
      serial: `nothing-${number}`,
    })
    for (const kind of kinds) await insertKind(client, id, kind)
    await insertAct(client, id, actor.id, { what: 'booked' })
    await tellTicket(client, id, 'booked')
    return number
  })
  await startCountIn(services, number, actor)
  return number
}

/** Under which name a copy is read: many may read one copy, each by a name of its own. */
export const readingOf = (copyId: CopyId) => `${serialOfCopy(copyId)}.${randomUUID().slice(0, 8)}`

/** Closes a look: what was read for it is erased. @throws Problem `TicketNotFound`, `NotFound` */
export async function closeLook(services: Services, number: string): Promise<void> {
  await onTicket(services, number, async (client, ticket) => {
    if (ticket.purpose !== 'look') throw new Problem('NotFound')
    const run = await maybeActiveRun(client, ticket.id)
    if (run) await stopRun(client, run.id)
    await setErased(client, ticket.id as TicketId, { ledger: [], phones: [] })
  })
  await finishErasing(services)
}

/** Closes what nobody closed. Answers how many. */
export async function closeStaleLooks(services: Services): Promise<number> {
  const stale = await manyStaleLooks(services.pool, lookHours)
  for (const number of stale) await closeLook(services, number)
  return stale.length
}
