import type { z } from 'zod'
import type { CopyView, lockersBody, LockersView } from '#contracts/http/lockers.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import type { Services } from '../../base/services.ts'
import { snapshot, type Client } from '../../base/db/sql.ts'
import { openText } from '../../vault/keys.ts'
import { findKeys, serialHash } from '../../vault/holdings.ts'
import type { HoldingId } from '../../base/ids.ts'
import { countCopies, manyCopies, manyCopyKinds, manyEnding, sumStored } from '../../vault/lockers/copies.queries.ts'
import { iso } from '../iso.ts'

/** Copies in the shop's lockers with their counts, kept or destroyed ones, a page at a time, the newest first. */
export function readLockers(services: Services, body: z.output<typeof lockersBody>): Promise<LockersView> {
  const { isDestroyed, find, after, limit } = body
  const wish = { isDestroyed, find, serialHash: find ? serialHash(services.config, find) : null }
  return snapshot(services.pool, async (client) => {
    const rows = await manyCopies(client, wish, { after, limit })
    const page = rows.slice(0, limit)
    return {
      copies: await viewsOf(client, services, page),
      total: await countCopies(client, wish),
      next: rows.length > limit ? page.at(-1)!.id : null,
      storedBytes: await sumStored(client),
      isShowing: false as const,
    }
  })
}

async function viewsOf(
  client: Client,
  { config }: Pick<Services, 'config'>,
  rows: Awaited<ReturnType<typeof manyCopies>>,
): Promise<CopyView[]> {
  const kinds = await manyCopyKinds(
    client,
    rows.map(({ id }) => id),
  )
  return rows.map((row): CopyView => {
    const its = kinds
      .filter((kind) => kind.copy_id === row.id)
      .sort((a, b) => kindCodes.indexOf(a.kind) - kindCodes.indexOf(b.kind))
      .map(({ kind, items, bytes, saved_bytes: savedBytes, unread, fates, whys }) => ({
        kind,
        items,
        bytes,
        savedBytes,
        unread,
        fates: fates ?? {},
        whys: (whys ?? []).map(({ fate, codes, items: n }) => ({ fate, codes: [...codes], items: n })),
      }))
    return {
      id: row.id,
      customer: customerOf(config, row.holding, row.customer),
      ticket: row.ticket,
      askedBy: row.asked_by,
      phone: { maker: row.maker, model: row.model, platform: row.platform, version: row.version },
      isClosed: row.is_closed,
      madeAt: row.created_at.toISOString(),
      asOf: iso(row.closed_at),
      keepUntil: row.keep_until.toISOString(),
      kinds: its,
      items: its.reduce((sum, { items }) => sum + items, 0),
      bytes: its.reduce((sum, { bytes }) => sum + bytes, 0),
      savedBytes: its.reduce((sum, { savedBytes }) => sum + savedBytes, 0),
      destroyed: row.destroyed_at && {
        at: row.destroyed_at.toISOString(),
        how: row.destroyed_how!,
        why: row.destroyed_why as NonNullable<CopyView['destroyed']>['why'],
        by: row.destroyed_by,
      },
    }
  })
}

/** Copies that end within a week, the next first. */
export async function readEnding(client: Client, { config }: Pick<Services, 'config'>) {
  return (await manyEnding(client)).map(({ id, holding, customer, keep_until: until }) => ({
    id,
    customer: customerOf(config, holding, customer),
    keepUntil: until.toISOString(),
  }))
}

/** Whose a copy is, in initials; null where its key can't be reached. */
function customerOf(config: Services['config'], holding: HoldingId | null, sealed: Buffer | null): string | null {
  const keys = findKeys(config, holding)
  return keys && sealed ? initialsOf((JSON.parse(openText(keys, 'customer', sealed)) as { name: string }).name) : null
}

/** “I. H.”: whose it is, for who knows; nothing for who looks over a shoulder. */
export function initialsOf(name: string): string {
  return name
    .trim()
    .split(/\s+/)
    .map((word) => `${[...word][0]!.toUpperCase()}.`)
    .join(' ')
}
