import { isFolder, takesAsGiven } from '#core/phones/capability.ts'
import { manyUnread } from '../../book/entries/carry.queries.ts'
import { readLedgers } from '../../book/ledger.ts'
import { copyEndOf } from '../../book/copy-end.ts'
import { manyKinds } from '../../case/tickets.queries.ts'
import type { RunContext } from '../../runs/context.ts'
import { attach, orWait, type RunTicket } from '../../runs/ticket-of-run.ts'
import { noteChecked } from '../../vault/lockers/copies.queries.ts'
import { asGiven } from '../moving/as-given.ts'
import { scopeOf, type Step, type Work } from '../step.ts'

/**
 * Tells a place that keeps its own count only then that all of the kind is written for now: what it is checked by. What
 * could not be read is kept beside, as it was given. @throws MustWait
 */
export async function closePlace(work: Work): Promise<void> {
  if (takesAsGiven(work.ticket.target) && !isFolder(work.ticket.target)) await closeKind(work)
}

/**
 * What is taken home is made of all kinds at once, before the first is checked: nothing is written any more then, and
 * what every kind is checked by is one archive. @param last what is still to be done with a kind before
 * @throws MustWait
 */
export async function finishFolder(context: RunContext, ticket: RunTicket, last: readonly Step[]): Promise<void> {
  if (!isFolder(ticket.target)) return
  let now = await attach(context, ticket.new)
  for (const { kind } of ticket.kinds) {
    const work: Work = { context, ticket, kind, now }
    for (const step of last) await step(work)
    await closeKind(work)
    now = work.now
  }
  await orWait('new', async () =>
    now.sink.finish?.(async (done, total) => {
      await context.checkpoint('packing')
      await context.progress('packing', done, total, { unit: 'bytes' })
    }),
  )
  await context.checkpoint('finished')
}

async function closeKind(work: Work): Promise<void> {
  const { now, kind } = work
  await orWait('new', async () => {
    await now.sink.keepUnread?.(kind, () => unreadPages(work))
    await now.sink.close?.(kind)
  })
}

const atOnce = 100

async function* unreadPages(work: Work): AsyncGenerator<Uint8Array[]> {
  for (let after = -1; ;) {
    const items = await manyUnread(work.context.services.pool, { ...scopeOf(work), after, limit: atOnce })
    if (items.length === 0) return
    after = items.at(-1)!.seq
    yield await asGiven(work, items)
  }
}

/** A copy carries what it lacks against its phone: what became of each item, as it was checked. @throws LeaseLost */
export async function noteCopy({ context, ticket, kind }: Work): Promise<void> {
  const { copy_id: copyId } = ticket.new
  if (copyId === null) return
  await context.fenced(async (client) => {
    const kinds = (await manyKinds(client, [ticket.ticket.id])).filter((row) => row.kind === kind)
    const [row] = (await readLedgers(client, { tickets: [ticket.ticket], kinds, runs: [] })).get(ticket.ticket.id)!
    await noteChecked(client, copyId, kind, await copyEndOf(client, ticket.ticket.id, row!))
  })
}
