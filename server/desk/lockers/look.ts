import { randomUUID } from 'node:crypto'
import type { Actor } from '../../base/did.ts'
import type { CopyId, TicketId } from '../../base/ids.ts'
import { sqlState, transaction, type Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { insertAct } from '../../case/acts.queries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import {
  insertKind,
  insertPhone,
  insertTicket,
  manyStaleLooks,
  maybeLook,
  setErased,
  tellTicket,
  type NewPhone,
} from '../../case/tickets.queries.ts'
import { readBench, type BenchPort } from '../../endpoints/ports.ts'
import { serialOfCopy } from '../../endpoints/makers/locker.ts'
import { maybeActiveRun, stopRun } from '../../runs/runs.queries.ts'
import { keepBench } from '../../ready/keeper.ts'
import type { CopyRow } from '../../vault/lockers/copies.queries.ts'
import { insertHolding } from '../../vault/holdings.queries.ts'
import { newHolding } from '../../vault/holdings.ts'
import { sealText } from '../../vault/keys.ts'
import { kindsOfCopy } from '../book-in/kinds.ts'
import { startCountIn } from '../count-in/act.ts'
import { finishErasing } from '../hand-back/erase.ts'
import { copyToRead } from './copies.ts'

/** How long a look stays open that nobody closes. Hours. */
const lookHours = 12

/**
 * Looks into a copy as into a phone: a case of its own whose old side it is, counted in and never carried; what is read
 * of it is sealed for the look alone and goes with it. Who looks already goes on. With another copy, or a phone as it is
 * now, beside it the two are compared: what only one of them holds, and what both do.
 * @throws Problem `CopyNotFound`, `CopyGone`, `CopyNewer`, `CopyClosed`, `NotPlugged`, `PhoneOnOtherTicket`, `NothingToCompare`
 */
export async function lookInto(services: Services, copyId: CopyId, { beside, actor }: { beside: Beside; actor: Actor }): Promise<string> {
  const open = beside ? undefined : await maybeLook(services.pool, { copyId, staffId: actor.id })
  if (open) return open
  const { id: holding, keys } = newHolding(services.config)
  const { ports } = await readBench(services)
  const number = await transaction(services.pool, async (client) => {
    const copy = await copyToLookAt(client, copyId)
    const mine = await kindsOfCopy(client, copyId)
    const other = beside && 'copy' in beside ? await copyToLookAt(client, beside.copy as CopyId) : null
    const kinds = other ? (await kindsOfCopy(client, other.id)).filter((kind) => mine.includes(kind)) : mine
    if (kinds.length === 0) throw new Problem('NothingToCompare')
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
    if (beside) {
      await insertPhone(client, id, 'old', other ? sideOfCopy(other) : sideOfPhone(ports, (beside as { serial: string }).serial))
      // it is read as it was given: what is compared is compared in the words of the phone it came from
      await insertPhone(client, id, 'new', { ...sideOfCopy(copy), platform: 'locker' })
    } else {
      await insertPhone(client, id, 'old', sideOfCopy(copy))
      await insertPhone(client, id, 'new', { ...noPhone, place: 'nothing', platform: 'locker', serial: `nothing-${number}` })
    }
    for (const kind of kinds) await insertKind(client, id, kind)
    await insertAct(client, id, actor.id, { what: 'booked' })
    await tellTicket(client, id, 'booked')
    return number
  }).catch((error: unknown) => {
    throw sqlState(error) === 'unique_violation' ? new Problem('PhoneOnOtherTicket') : error
  })
  // a phone that is not ready yet is made ready on the look's own page
  await startCountIn(services, number, actor).catch((error: unknown) => {
    if (!(error instanceof Problem) || error.code !== 'PhonesNotReady') throw error
  })
  if (beside) await keepBench(services).catch(() => undefined)
  return number
}

/** What a copy is compared with: another copy, or a phone on the bench. */
export type Beside = { readonly copy: number } | { readonly serial: string } | null

/** @throws Problem `CopyNotFound`, `CopyGone`, `CopyNewer`, `CopyClosed` */
async function copyToLookAt(client: Client, id: CopyId): Promise<CopyRow> {
  const copy = await copyToRead(client, id)
  if (copy.is_closed) throw new Problem('CopyClosed')
  return copy
}

const noPhone = { maker: '', model: '', version: '', uploadId: null, copyId: null, copyKey: null }

const sideOfCopy = ({ id, maker, model, platform, version }: CopyRow): NewPhone => ({
  ...noPhone,
  place: 'locker',
  maker,
  model,
  platform,
  version,
  serial: readingOf(id),
  copyId: id,
})

/** @throws Problem `NotPlugged` */
function sideOfPhone(ports: readonly BenchPort[], serial: string): NewPhone {
  const facts = ports.find(({ phone }) => phone?.facts.serial === serial)?.phone?.facts
  if (!facts) throw new Problem('NotPlugged')
  const { maker, model, platform, version } = facts
  return { ...noPhone, place: 'bench', maker, model, platform, version, serial }
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

/** Closes what nobody closed, and what looks into a copy that is destroyed, or that its owner closed: nothing of it outlives that. Answers how many. */
export async function closeStaleLooks(services: Services): Promise<number> {
  const stale = await manyStaleLooks(services.pool, lookHours)
  for (const number of stale) await closeLook(services, number)
  return stale.length
}
