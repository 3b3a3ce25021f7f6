import { kindOf } from '#core/kinds/registry.ts'
import type { LinkRecord } from '#contracts/link/index.ts'
import { manyOfFiles } from '../../book/entries/named.queries.ts'
import { openContents } from '../../vault/contents.ts'
import type { WorkAlone } from '../step.ts'

/** What became of items that others name, by the digests of their files. */
type Fates = ReadonlyMap<string, { readonly canCome: boolean; readonly isOver: boolean }>

const openAtOnce = 2000

/**
 * Of a kind whose items name items of another: what stands for each of those on this ticket. Equal ones stand for each
 * other: one that is over is enough.
 */
async function fatesOfNamed({ context, ticket, kind: code }: WorkAlone): Promise<Fates> {
  const { pool } = context.services
  const named = kindOf(kindOf(code).namesOthers!.kind)
  const out = new Map<string, { canCome: boolean; isOver: boolean }>()
  const tools = ticket.toolsFor(ticket.old)
  for (let after = -1; ;) {
    const rows = await manyOfFiles(pool, { ticketId: ticket.ticket.id, kind: named.code, after, limit: openAtOnce })
    if (rows.length === 0) return out
    after = rows.at(-1)!.seq
    const bodies = await openContents(pool, ticket.keys, rows)
    rows.forEach(({ can_come: canCome, is_over: isOver }, i) => {
      const read = named.read(bodies[i]!, tools)
      for (const { digest } of read.ok ? (named.filesOf?.(read.item) ?? []) : []) {
        const before = out.get(digest)
        out.set(digest, { canCome: canCome || before?.canCome === true, isOver: isOver || before?.isOver === true })
      }
    })
  }
}

/** Notes in each record, as it is read, what of the items it names can't come at all. Undefined for kinds that name none. */
export async function createNaming(work: WorkAlone): Promise<((record: LinkRecord) => Promise<LinkRecord>) | undefined> {
  const kind = kindOf(work.kind)
  if (!kind.namesOthers) return undefined
  const fates = await fatesOfNamed(work)
  const { context: _, ticket } = work
  return (record) => {
    const body = Buffer.from(record.body, 'base64')
    const read = record.unreadable ? undefined : kind.read(body, ticket.toolsFor(ticket.old))
    if (!read?.ok) return Promise.resolve(record)
    const gone = placesWhere(kind.namesOthers!.of(read.item), (digest) => fates.get(digest)?.canCome !== true)
    return Promise.resolve({ ...record, body: Buffer.from(kind.namesOthers!.note(body, gone)).toString('base64') })
  }
}

/** By run: what is named goes before what names it, so its fates stand still meanwhile. */
const known = new WeakMap<WorkAlone['context'], Map<string, Promise<Fates>>>()

/** Of the form an item has, the places whose items are not over by now. */
export async function createStillMissing(work: WorkAlone): Promise<((form: unknown) => ReadonlySet<number>) | undefined> {
  const { namesOthers } = kindOf(work.kind)
  if (!namesOthers) return undefined
  const ofRun = known.get(work.context) ?? new Map<string, Promise<Fates>>()
  known.set(work.context, ofRun)
  if (!ofRun.has(work.kind)) {
    const asked = fatesOfNamed(work)
    // what failed is asked again
    asked.catch(() => ofRun.delete(work.kind))
    ofRun.set(work.kind, asked)
  }
  const fates = await ofRun.get(work.kind)!
  return (form) => placesWhere(namesOthers.of(form), (digest) => fates.get(digest)?.isOver !== true)
}

function placesWhere(digests: readonly string[], is: (digest: string) => boolean): ReadonlySet<number> {
  return new Set(digests.flatMap((digest, i) => (is(digest) ? [i] : [])))
}
