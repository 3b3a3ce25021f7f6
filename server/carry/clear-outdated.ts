import { kindOf } from '#core/kinds/registry.ts'
import { stageRecord } from '../readings/stage.ts'
import type { RunContext } from '../runs/context.ts'
import { attach, orWait, waitUntilStill, type Attached, type RunTicket } from '../runs/ticket-of-run.ts'
import { manyOutdated, markCleared, type OutdatedEntry } from './outdated.queries.ts'

/**
 * An item edited on the old phone after its turn was carried again as a new record; what it left behind is taken
 * away once the new one is proved by a fresh listing, and only while it still says what this ticket wrote. A record
 * that somebody changed meanwhile stays, and shows as over. Killed at any moment, it finds out again by listing.
 */
export async function clearOutdated(context: RunContext, ticket: RunTicket, kind: string): Promise<void> {
  const scope = { ticketId: ticket.ticket.id, kind }
  const waiting = await manyOutdated(context.services.pool, scope)
  if (waiting.length === 0) return
  const now = await attach(context, ticket.new)
  await waitUntilStill(context, now, kind)
  const before = await orWait('new', () => now.session.count(kind))
  const there = await findRecords(ticket, { kind, now, wanted: new Set(waiting.flatMap((e) => [hexOf(e.outdated), hexOf(e.written)])) })
  const isProved = (entry: OutdatedEntry) => there.get(hexOf(entry.written))?.digest === hexOf(entry.expected)
  const isOurs = (entry: OutdatedEntry) => there.get(hexOf(entry.outdated))?.digest === hexOf(entry.outdated_digest)
  const away = waiting.filter((entry) => isProved(entry) && isOurs(entry))
  await context.checkpoint('clear-before-remove')
  if (away.length > 0) {
    const ids = away.map((entry) => there.get(hexOf(entry.outdated))!.nativeId)
    await orWait('new', () => now.session.remove(kind, ids, before.revision))
  }
  await context.checkpoint('clear-before-commit')
  const gone = waiting.filter((entry) => !there.has(hexOf(entry.outdated)))
  await context.fenced((client) =>
    markCleared(
      client,
      scope,
      [...away, ...gone].map((entry) => entry.seq),
    ),
  )
}

function hexOf(bytes: Buffer | null): string {
  return bytes?.toString('hex') ?? ''
}

/** The records wanted, by the HMAC of their ids, as the phone lists them now. */
async function findRecords(
  ticket: RunTicket,
  { kind, now, wanted }: { kind: string; now: Attached; wanted: ReadonlySet<string> },
): Promise<Map<string, { nativeId: string; digest: string }>> {
  const stager = { kind: kindOf(kind), keys: ticket.keys, tools: ticket.toolsFor(now.facts), target: null }
  const found = new Map<string, { nativeId: string; digest: string }>()
  await orWait('new', async () => {
    for await (const record of now.session.list(kind)) {
      const { native, digest } = stageRecord(stager, record)
      if (wanted.has(hexOf(native))) found.set(hexOf(native), { nativeId: record.id, digest: hexOf(digest) })
    }
  })
  return found
}
