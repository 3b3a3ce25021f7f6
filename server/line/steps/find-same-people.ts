import { kindOf } from '#core/kinds/registry.ts'
import { snapshot } from '../../base/db/sql.ts'
import { openContents } from '../../vault/contents.ts'
import type { WorkAlone } from '../step.ts'
import { oneKind } from '../../case/tickets.queries.ts'
import { joinRecords } from './join-records.ts'
import { manyCandidates, replaceJoinings, type Candidate, type NewJoining } from '../../book/joining/joining.queries.ts'

/** Contents opened at a time. */
const atOnce = 500

/**
 * Finds whom both phones know: items that wait and records of the first count with a name, a number or an address in
 * common, one to one. What would be lost by joining is told for each; nothing is joined unless somebody says so.
 */
export async function findSamePeople({ context, ticket, kind: kindCode }: WorkAlone): Promise<void> {
  const kind = kindOf(kindCode)
  if (!kind.join) return
  const { pool } = context.services
  const ticketId = ticket.ticket.id
  const { first_reading: firstReading, frozen_at: frozenAt } = await oneKind(pool, ticketId, kindCode)
  if (!firstReading || frozenAt) return
  const pairs = oneToOne(await snapshot(pool, (client) => manyCandidates(client, { ticketId, kind: kindCode, firstReading })))
  const oldTools = ticket.toolsFor(ticket.old)
  const newTools = ticket.toolsFor(ticket.new)
  const found: NewJoining[] = []
  for (let at = 0; at < pairs.length; at += atOnce) {
    const some = pairs.slice(at, at + atOnce)
    const ours = await openContents(
      pool,
      ticket.keys,
      some.map((c) => ({ reading_id: c.ours_reading, block: c.ours_block, slot: c.ours_slot })),
    )
    const theirs = await openContents(
      pool,
      ticket.keys,
      some.map((c) => ({ reading_id: c.theirs_reading, block: c.theirs_block, slot: c.theirs_slot })),
    )
    some.forEach((candidate, i) => {
      const both = joinRecords(kind, { ours: ours[i]!, theirs: theirs[i]! }, { target: ticket.target, oldTools, newTools })
      if (!both) return
      const { form, its, joined } = both
      const keys = new Set(kind.matchKeys(kind.atoms(form, oldTools)))
      const shared = [
        ...new Set(
          kind
            .matchKeys(kind.atoms(its, newTools))
            .filter((key) => keys.has(key))
            .map((key) => key.slice(0, key.indexOf(':'))),
        ),
      ]
      if (shared.length === 0) return
      found.push({ candidate, shared: shared.sort(), conflicts: 'conflicts' in joined ? joined.conflicts : [] })
    })
  }
  await context.fenced((client) => replaceJoinings(client, { ticketId, kind: kindCode }, found))
}

/** The best partner of each, none used twice: candidates come with those that share most first. */
function oneToOne(candidates: readonly Candidate[]): Candidate[] {
  const [ours, theirs] = [new Set<number>(), new Set<number>()]
  return candidates.filter(({ entry_seq: mine, theirs_seq: its }) => {
    if (ours.has(mine) || theirs.has(its)) return false
    ours.add(mine)
    theirs.add(its)
    return true
  })
}
