import { readLedgers } from '../../book/ledger.ts'
import { manyKinds } from '../../case/tickets.queries.ts'
import { orWait } from '../../runs/ticket-of-run.ts'
import { noteChecked } from '../../vault/lockers/copies.queries.ts'
import type { Work } from '../step.ts'

/** Tells a place that keeps its own count only then that all of the kind is written for now: what it is checked by. @throws MustWait */
export async function closePlace({ now, kind, ticket }: Work): Promise<void> {
  if (ticket.new.place !== 'locker') return
  await orWait('new', async () => now.sink.close?.(kind))
}

/** A copy carries what it lacks against its phone: what became of each item, as it was checked. @throws LeaseLost */
export async function noteCopy({ context, ticket, kind }: Work): Promise<void> {
  const { copy_id: copyId } = ticket.new
  if (copyId === null) return
  await context.fenced(async (client) => {
    const kinds = (await manyKinds(client, [ticket.ticket.id])).filter((row) => row.kind === kind)
    const [row] = (await readLedgers(client, { tickets: [ticket.ticket], kinds, runs: [] })).get(ticket.ticket.id)!
    await noteChecked(client, copyId, kind, { ...row!.fates, notReadBack: row!.notYetChecked })
  })
}
