import type { LinkRecord } from '#contracts/link/index.ts'
import type { Known } from '#core/kinds/apps/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { majorVersion } from '#core/phones/version.ts'
import type { WorkAlone } from '../step.ts'
import { createNaming } from './named-others.ts'
import { askCounterparts } from '../../endpoints/catalogue.ts'
import { shopsCounterparts } from '../../endpoints/counterparts.queries.ts'

/**
 * For kinds a catalogue knows, carried to another platform: notes in each record what may stand in for it there, and
 * what the shop chose before; for those that name other items, what of them can't come. Undefined for all else.
 */
export async function createLookUp({
  context,
  ticket,
  kind: code,
}: WorkAlone): Promise<((record: LinkRecord) => Promise<LinkRecord>) | undefined> {
  const kind = kindOf(code)
  if (kind.namesOthers) return createNaming({ context, ticket, kind: code })
  const [from, to] = [ticket.old.platform, ticket.new.platform]
  if (!kind.noteKnown || !kind.appId || from === to || !isCatalogued(from) || !isCatalogued(to)) return undefined
  const { pool, config } = context.services
  const chosen = await shopsCounterparts(pool, to)
  const phone = { region: ticket.new.region, version: majorVersion(ticket.new.version) }
  return async (record) => {
    const body = Buffer.from(record.body, 'base64')
    const read = record.unreadable ? undefined : kind.read(body, ticket.toolsFor(ticket.old))
    if (!read?.ok) return record
    const id = kind.appId!(read.item)
    const { app, candidates, hasWebPage } = await askCounterparts(config, { id, from, to })
    const known: Known = { app, candidates, hasWebPage, ...phone, ...(chosen.has(id) ? { chosen: chosen.get(id)! } : {}) }
    return { ...record, body: Buffer.from(kind.noteKnown!(body, known)).toString('base64') }
  }
}

function isCatalogued(platform: string): platform is 'android' | 'ios' {
  return platform === 'android' || platform === 'ios'
}
