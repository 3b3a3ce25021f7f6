import type { z } from 'zod'
import type { AppRow, AppsView, CandidatesView, counterpartBody, movedBody } from '#contracts/http/media.ts'
import { apps, findCounterpart, type App } from '#core/kinds/apps/index.ts'
import { canInstall, isInstalledByHand } from '#core/kinds/apps/counterpart.ts'
import { findModel } from '#core/phones/models.ts'
import type { Actor } from '../../base/did.ts'
import { setShopsCounterpart, shopsCounterparts } from '../../endpoints/counterparts.queries.ts'
import type { Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import { fitPlan } from '../../book/plan/plan.queries.ts'
import { openContents } from '../../vault/contents.ts'
import { readTools } from '../../vault/read-tools.ts'
import { maybeActiveRun } from '../../runs/runs.queries.ts'
import { contentDigest, type TicketKeys } from '../../vault/keys.ts'
import type { Services } from '../../base/services.ts'
import { onOpenTicket } from '../items/entries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { manyPhones, type PhoneRow, type TicketRow } from '../../case/tickets.queries.ts'
import { manyApps, setCounterpart, setMoved, type AppEntry } from '../../book/entries/apps.queries.ts'
import { holdingKeys } from '../../vault/holdings.ts'

interface Opened {
  readonly entry: AppEntry
  /** As it was read, with the shop's present word on its counterpart. */
  readonly app: App
}

/** Every app of the old phone and what becomes of it; what they are called only while showing is allowed. @throws Problem `TicketNotFound`, `TicketErased` */
export async function readApps(services: Services, number: string, actor: Actor): Promise<AppsView> {
  return onOpenTicket(services, number, { kindCode: 'apps', actor }, async ({ client, ticket, keys, isShowing }) => {
    const phones = await manyPhones(client, [ticket.id])
    const opened = await openApps(client, { ticket, keys, phones })
    const rows = opened.map((one) => rowOf(one, phones, isShowing))
    return {
      rows,
      isShowing,
      counts: {
        all: rows.length,
        toInstall: rows.filter((row) => isInstalledByHand(row.how) && row.fate === 'pending').length,
        installed: rows.filter((row) => isInstalledByHand(row.how) && ['changed', 'alreadyThere'].includes(row.fate)).length,
        tied: rows.filter((row) => row.tied).length,
        tiedOpen: rows.filter((row) => row.tied && !row.isMoved).length,
      },
    }
  })
}

/** The apps of a ticket, or one of them, opened. */
export async function openApps(
  client: Client,
  { ticket, keys, phones, seq = null }: { ticket: TicketRow; keys: TicketKeys; phones: readonly PhoneRow[]; seq?: number | null },
): Promise<Opened[]> {
  const entries = await manyApps(client, ticket.id, seq)
  const to = phones.find((phone) => phone.side === 'new')!
  const chosen = await shopsCounterparts(client, to.platform)
  const tools = readTools(
    phones.find((phone) => phone.side === 'old')!,
    ticket.created_at.getTime(),
  )
  const bodies = await openContents(client, keys, entries)
  return entries.flatMap((entry, i): Opened[] => {
    const read = apps.read(bodies[i]!, tools)
    if (!read.ok) return []
    const { known, ...app } = read.item
    const { chosen: _, ...rest } = known ?? { chosen: undefined }
    return [
      {
        entry,
        app: { ...app, known: known && { ...(rest as typeof known), ...(chosen.has(app.id) ? { chosen: chosen.get(app.id)! } : {}) } },
      },
    ]
  })
}

function rowOf({ entry, app }: Opened, phones: readonly PhoneRow[], isShowing: boolean): AppRow {
  const counterpart = app.known ? findCounterpart(app) : undefined
  const isStore = phones.find((phone) => phone.side === 'new')!.platform === 'ios'
  return {
    key: `old-${entry.seq}`,
    position: entry.seq + 1,
    use: app.use,
    fate: entry.fate === 'pending' && entry.is_there ? 'alreadyThere' : entry.fate,
    reasons: entry.reasons,
    how: counterpart?.how ?? (isStore ? 'store' : 'package'),
    isShops: counterpart?.isShops ?? false,
    notes: [...(counterpart?.notes ?? [])],
    tied: app.tied ?? null,
    isMoved: entry.is_moved,
    candidates: app.known?.candidates.length ?? 0,
    name: isShowing ? app.name || app.id : null,
    counterpart: isShowing ? (counterpart?.app?.name ?? null) : null,
  }
}

/** What may stand in for one app. @throws Problem `ShowingNotAllowed`, `NotFound` */
export async function readCandidates(
  services: Services,
  number: string,
  { key, actor }: { key: string; actor: Actor },
): Promise<CandidatesView> {
  return onOpenTicket(services, number, { kindCode: 'apps', actor }, async ({ client, ticket, keys, isShowing }) => {
    if (!isShowing) throw new Problem('ShowingNotAllowed')
    const [one] = await openApps(client, { ticket, keys, phones: await manyPhones(client, [ticket.id]), seq: seqOf(key) })
    if (!one) throw new Problem('NotFound')
    const { known } = one.app
    return {
      chosen: findCounterpart(one.app).app?.id ?? null,
      candidates: (known?.candidates ?? []).map((candidate) => ({
        id: candidate.id,
        name: candidate.name,
        maker: candidate.maker,
        priceCents: candidate.priceCents,
        canInstall: canInstall(candidate, known!),
      })),
    }
  })
}

/**
 * The technician's word on what stands in for an app: it holds for this ticket at once, and the shop remembers it for
 * every other. @throws Problem `PhoneBusy`, `NotFound`, `BadRequest` for an app that is no candidate
 */
export function chooseCounterpart(
  services: Services,
  number: string,
  { body, actor }: { body: z.infer<typeof counterpartBody>; actor: Actor },
): Promise<void> {
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const keys = holdingKeys(services.config, ticket.holding!)
    const [one] = await openApps(client, { ticket, keys, phones, seq: seqOf(body.key) })
    if (!one) throw new Problem('NotFound')
    const { entry, app } = one
    if (!app.known || (body.counterpartId !== null && !app.known.candidates.some(({ id }) => id === body.counterpartId)))
      throw new Problem('BadRequest', { fields: ['counterpartId'] })
    if (!['pending', 'cannotCross', 'notChosen'].includes(entry.fate)) throw new Problem('StageNotReached')
    const to = phones.find((phone) => phone.side === 'new')!
    await setShopsCounterpart(client, { appId: app.id, platform: to.platform, counterpartId: body.counterpartId, staffId: actor.id })
    const changed = apps.change({ ...app, known: { ...app.known, chosen: body.counterpartId } }, findModel(to))
    if ('cannot' in changed) {
      await setCounterpart(client, ticket.id, {
        seq: entry.seq,
        expected: null,
        reasons: [changed.cannot],
        isByHand: false,
        hasLoss: false,
      })
    } else {
      const tools = readTools(
        phones.find((phone) => phone.side === 'old')!,
        ticket.created_at.getTime(),
      )
      const codes = changed.changes.map(({ code }) => code)
      await setCounterpart(client, ticket.id, {
        seq: entry.seq,
        expected: contentDigest(keys, apps.canonicalBytes(apps.atoms(changed.item, tools))),
        reasons: codes,
        isByHand: codes.some((code) => apps.byHand!.includes(code)),
        hasLoss: changed.changes.some(({ loss }) => loss),
      })
    }
    // it may be on the new phone already
    const row = kinds.find(({ kind }) => kind === 'apps')
    if (row?.first_reading)
      await fitPlan(client, { ticketId: ticket.id, kind: 'apps', firstReading: row.first_reading, capacity: undefined, hasIdentity: true })
  })
}

/** Says of an app bound to the old phone that it was moved by hand, or not yet. @throws Problem `NotFound` */
export function markMoved(
  services: Services,
  number: string,
  { body, actor }: { body: z.infer<typeof movedBody>; actor: Actor },
): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    const [entry] = await manyApps(client, ticket.id, seqOf(body.key))
    if (!entry) throw new Problem('NotFound')
    await setMoved(client, { ticketId: ticket.id, native: entry.native, isMoved: body.isMoved, staffId: actor.id })
  })
}

function seqOf(key: string): number {
  return Number(key.replace('old-', ''))
}
