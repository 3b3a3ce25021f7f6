import type { z } from 'zod'
import type { kindsBody } from '#contracts/http/ticket.ts'
import { kinds as registered } from '#core/kinds/registry.ts'
import type { Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { dropKind } from '../../book/forget.queries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { insertKind, setWanted, type KindRow, type PhoneRow } from '../../case/tickets.queries.ts'
import { manyCopyKinds } from '../../vault/lockers/copies.queries.ts'
import type { CopyId } from '../../base/ids.ts'
import { filmKind } from '../../endpoints/films.ts'
import { findUpload } from '../../endpoints/uploads.queries.ts'
import { readGuides, type Guides } from '../../ready/guides.ts'
import { keepBench } from '../../ready/keeper.ts'
import { pairCrossings } from '../../ready/ready.ts'
import { kindRow, mayDo } from '../guard.ts'

export const isCarried = (kind: string) => registered.some(({ code }) => code === kind)

/** The kinds a dropped file holds. @throws Problem `FileUnreadable` when there is no such file */
export async function kindsOfFile(client: Client, upload: string | undefined): Promise<string[]> {
  const row = upload ? await findUpload(client, upload) : undefined
  if (!row) throw new Problem('FileUnreadable')
  return Object.entries(row.kinds).flatMap(([kind, held]) => (held!.items > 0 ? [kind] : []))
}

/** The kinds a copy in a locker holds. */
export async function kindsOfCopy(client: Client, copy: CopyId): Promise<string[]> {
  return (await manyCopyKinds(client, [copy])).flatMap(({ kind, items }) => (items > 0 ? [kind] : []))
}

/** The kinds that are given by what stands for the old phone; null where it has to be asked. */
async function kindsGiven(client: Client, { place, upload_id: upload, copy_id: copy }: PhoneRow): Promise<string[] | null> {
  if (place === 'locker') return copy === null ? [] : kindsOfCopy(client, copy)
  return place === 'file' ? kindsOfFile(client, upload ?? undefined).catch(() => []) : null
}

/** The kinds a ticket can carry and does not yet: they cross between its phones, and the old side has them. */
export async function kindsToAdd(
  client: Client,
  { guides, phones, kinds }: { guides: Guides; phones: readonly PhoneRow[]; kinds: readonly KindRow[] },
): Promise<string[]> {
  const old = phones.find((phone) => phone.side === 'old')!
  const given = await kindsGiven(client, old)
  const crossings = pairCrossings(guides, phones)
  return registered.flatMap(({ code }) => {
    const isTaken = kinds.some(({ kind }) => kind === code)
    const isGiven = given === null || given.includes(code)
    const isStopped = crossings.some(({ kind, crosses }) => kind === code && crosses === 'cannot')
    return isTaken || !isGiven || isStopped || (old.films_in_photos && code === filmKind) ? [] : [code]
  })
}

/**
 * Adds kinds to what a ticket carries, at any time before the signature; they run the line from where it is. A kind of
 * which nothing is written yet can be let go again, but never the last.
 * @throws Problem `KindUnknown`, `KindFrozen`, `LastKind`, `PhoneBusy`, `TicketSigned`, `TicketCalledOff`
 */
export async function changeKinds(services: Services, number: string, { add, remove }: z.infer<typeof kindsBody>): Promise<void> {
  await onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    await mayDo(client, 'changeKinds', { ticket, kinds })
    const addable = await kindsToAdd(client, { guides: readGuides(services), phones, kinds })
    if (!add.every((kind) => addable.includes(kind))) throw new Problem('KindUnknown')
    if (remove.some((kind) => kindRow(kinds, kind).frozen_at)) throw new Problem('KindFrozen')
    if (kinds.length + add.length === new Set(remove).size) throw new Problem('LastKind')
    for (const kind of add) await insertKind(client, ticket.id, kind)
    for (const kind of remove) await dropKind(client, ticket.id, kind)
    const wanted = [...ticket.wanted.filter((kind) => !remove.includes(kind)), ...add.filter((kind) => !ticket.wanted.includes(kind))]
    await setWanted(client, ticket.id, wanted)
  })
  // what a kind needs of the phones is asked for at once
  await keepBench(services).catch(() => undefined)
}
