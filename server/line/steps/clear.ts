import {
  countWrite,
  dropAsked,
  dropReplaced,
  forgetTaken,
  manyToClear,
  noteFound,
  retire,
  type FormerRow,
} from '../../book/batches/batches.queries.ts'
import { snapshot } from '../../base/db/sql.ts'
import { settleSome } from '../../book/settle.ts'
import { attach, orWait, waitUntilStill } from '../../runs/ticket-of-run.ts'
import { scopeOf, type Work } from '../step.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { nativeDigest } from '../../vault/keys.ts'
import { stowRecord } from '../../vault/stow.ts'
import { noteFiles } from '../reading/note-files.ts'

/**
 * Takes away from the new phone what this ticket left behind there: what an item that was carried again wrote before,
 * once its new record is proved by a fresh listing; theirs, once the joined record that stands in for it is; and what
 * was asked for. Only what says what it is known to say goes; a record that somebody changed meanwhile stays. Killed
 * at any moment, it finds out again by listing.
 */
export async function clearLeft(work: Work): Promise<void> {
  const { context, ticket, kind } = work
  const scope = scopeOf(work)
  const wanted = await snapshot(context.services.pool, (client) => manyToClear(client, scope))
  if (wanted.length === 0) return
  work.now = await attach(context, ticket.new)
  await context.progress('taking-away', 0, wanted.length, { kind })
  await waitUntilStill(context, work.now, kind)
  const there = await findRecords(work, new Set(wanted.flatMap((row) => [hexOf(row.native), hexOf(row.now_native)])))
  const stands = (row: FormerRow) => there.get(hexOf(row.native))
  const isProved = (row: FormerRow) => row.now_native === null || there.get(hexOf(row.now_native))?.digest === hexOf(row.now_digest)
  const away = wanted.filter((row) => isProved(row) && stands(row)?.digest === hexOf(row.digest))
  const gone = wanted.filter((row) => !stands(row))
  // seen now: when it is gone at the next look, it is gone for good
  await context.fenced((client) => noteFound(client, idsOf(wanted.filter(stands)), idsOf(away)))
  await context.checkpoint('clear-before-remove')
  if (away.length > 0) await orWait('new', () => work.now.sink.remove(kind, [...new Set(away.map((row) => stands(row)!.nativeId))]))
  await context.checkpoint('clear-before-commit')
  await context.fenced(async (client) => {
    const seqs = await forgetTaken(client, scope, idsOf(away))
    await settleSome(client, scope, 'takenAway', seqs)
    await retire(client, idsOf(gone))
    await dropReplaced(
      client,
      scope,
      [...away, ...gone].flatMap((row) => (row.id === null ? [row.entry_seq] : [])),
    )
    await dropAsked(client, scope)
    if (away.length > 0) await countWrite(client, scope)
  })
}

function idsOf(rows: readonly FormerRow[]): number[] {
  return rows.flatMap(({ id }) => (id === null ? [] : [id]))
}

function hexOf(bytes: Buffer | null): string {
  return bytes?.toString('hex') ?? ''
}

/** The records wanted, by the HMAC of their ids, as the phone lists them now; their files are read: they are what it says. */
async function findRecords(
  { context, ticket, kind: code, now }: Work,
  wanted: ReadonlySet<string>,
): Promise<Map<string, { nativeId: string; digest: string }>> {
  const kind = kindOf(code)
  const stowing = { kind, keys: ticket.keys, tools: ticket.toolsFor(now.place), target: null }
  const how = { kind, side: 'new', before: undefined, alive: () => context.checkpoint('clear-reads') } as const
  const found = new Map<string, { nativeId: string; digest: string }>()
  await orWait('new', async () => {
    for await (const record of now.source.list(code)) {
      if (!wanted.has(hexOf(nativeDigest(ticket.keys, record.id)))) continue
      const { native, digest } = stowRecord(stowing, record.files ? await noteFiles(now.source, how, record) : record)
      found.set(hexOf(native), { nativeId: record.id, digest: hexOf(digest) })
    }
  })
  return found
}
