import { readLedgers } from '../../book/ledger.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { maybeActiveRun } from '../../runs/runs.queries.ts'
import { eraseContents } from '../../book/forget.queries.ts'
import { manyHalfErased, setErased } from '../../case/tickets.queries.ts'
import { eraseHoldings } from '../../vault/erase.ts'
import { LinkError } from '../../endpoints/endpoint.ts'
import { destroyDue } from '../../vault/lockers/destroy.ts'
import { copyEndOf } from '../../book/copy-end.ts'
import type { CopyEnd } from '../../vault/lockers/copies.queries.ts'
import { closeAsItStands } from '../../endpoints/makers/locker.ts'
import { serialHash } from '../../vault/holdings.ts'

/**
 * Hands the phones back and erases: the counts are kept, then the key goes, then sealed blocks, items, names and any
 * file. @throws Problem `SheetNotSigned`, `NumberNotTyped`, `PhoneBusy`
 */
export async function handBackAndErase(services: Services, number: string, typed: string): Promise<void> {
  await onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    if (typed.trim().toUpperCase() !== ticket.number) throw new Problem('NumberNotTyped')
    if (!ticket.signed_at && !ticket.called_off_at) throw new Problem('SheetNotSigned')
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const ledger = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
    const { copy_id: copyId, place } = phones.find(({ side }) => side === 'new')!
    const made = place === 'locker' ? copyId : null
    // what was carried since it was last read back is said, and stays with the copy
    if (made !== null && !ticket.called_off_at) {
      const ends: Record<string, CopyEnd> = {}
      for (const row of ledger) ends[row.kind] = await copyEndOf(client, ticket.id, row)
      await closeAsItStands(services, { copyId: made, ticketId: ticket.id, ends }).catch(asProblem)
    }
    await setErased(client, ticket.id, {
      ledger,
      phones: phones.flatMap(({ side, place, serial }) =>
        serial && place === 'bench' ? [{ side, serialHash: serialHash(services.config, serial) }] : [],
      ),
    })
  })
  await finishErasing(services)
  // what was made to be taken home goes with its ticket
  await destroyDue(services)
}

function asProblem(error: unknown): never {
  throw error instanceof LinkError && error.code === 'KeyAway' ? new Problem('KeyAway') : error
}

/**
 * Takes away what is left of erased tickets: the key first, so that nothing opens whatever else stays, then by one list
 * what it sealed. Also of those a process that was killed left half way. Safe to do twice.
 */
export async function finishErasing(services: Pick<Services, 'pool' | 'config'>): Promise<void> {
  for (const { id, holding, uploads } of await manyHalfErased(services.pool))
    await eraseHoldings(services, [holding, ...uploads], (client) => eraseContents(client, id))
}
