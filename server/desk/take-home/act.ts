import type { Actor } from '../../base/did.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { insertAct } from '../../case/acts.queries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { manyPhones, maybeTicket, tellTicket } from '../../case/tickets.queries.ts'
import { clearArchive, maybeArchive, noteTaken, setPassword } from '../../endpoints/archives/archives.queries.ts'
import type { RandomBytes } from '../../endpoints/archives/zip-reader.ts'
import { archiveBytes, passwordBound } from '../../endpoints/makers/folder.ts'
import { readBench } from '../../endpoints/ports.ts'
import { startRun } from '../../runs/start-run.ts'
import { findKeys, holdingKeys } from '../../vault/holdings.ts'
import { sealText } from '../../vault/keys.ts'
import { findCopy } from '../../vault/lockers/copies.queries.ts'
import { mayDo, standingFor } from '../guard.ts'

export interface HomeFile {
  /** Of the ticket; nothing of the customer's. */
  readonly name: string
  /** Which archive it is: a part of one goes with no other. */
  readonly tag: string
  readonly bytes: RandomBytes
}

/**
 * What is taken home as files: the archive as it was proved. That it was fetched is noted when it is begun.
 * @param isBegun whether a former call fetched the beginning already
 * @throws Problem `TicketNotFound`, `TicketErased`, `ArchiveNotThere`, `KeyAway`
 */
export async function openTakeHome(
  services: Services,
  number: string,
  { actor, isBegun }: { actor: Actor; isBegun: boolean },
): Promise<HomeFile> {
  const { pool, config } = services
  const ticket = await maybeTicket(pool, number)
  if (!ticket) throw new Problem('TicketNotFound')
  if (ticket.erased_at) throw new Problem('TicketErased')
  const { copy_id: copyId, place } = (await manyPhones(pool, [ticket.id])).find(({ side }) => side === 'new')!
  const row = place === 'folder' && copyId !== null ? await findCopy(pool, copyId) : undefined
  const archive = row && (await maybeArchive(pool, row.id))
  if (!row?.holding || !archive?.blob || archive.keep_until.getTime() <= Date.now()) throw new Problem('ArchiveNotThere')
  const keys = findKeys(config, row.holding)
  if (!keys) throw new Problem('KeyAway')
  if (!isBegun) {
    await insertAct(pool, ticket.id, actor.id, { what: 'taken-home' })
    await noteTaken(pool, row.id)
    await tellTicket(pool, ticket.id, 'changed')
  }
  return { name: `${number}-files.zip`, tag: `"${archive.blob}"`, bytes: archiveBytes({ pool, config }, { row, keys }, archive) }
}

/**
 * Locks what is taken home with a password, or with none; what was made before goes, and is made anew and read back.
 * @throws Problem `NothingTakenHome`, `TicketCalledOff`, `TicketSigned`, `PhoneBusy`, `TicketRests`
 */
export async function lockTakeHome(
  services: Services,
  number: string,
  { password, actor }: { password: string | null; actor: Actor },
): Promise<void> {
  const { ports } = await readBench(services)
  await onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    await mayDo(client, 'lockTakeHome', { ticket, kinds })
    const side = phones.find(({ side }) => side === 'new')!
    if (side.place !== 'folder' || side.copy_id === null) throw new Problem('NothingTakenHome')
    const keys = holdingKeys(services.config, ticket.holding!)
    await setPassword(client, ticket.id, password === null ? null : sealText(keys, passwordBound(ticket.id), password))
    await clearArchive(client, side.copy_id)
    const { areAllFrozen } = await standingFor(client, ticket, kinds)
    if (areAllFrozen) await startRun(client, { ticket, type: 'check-off', phones, ports, actor })
  })
}
