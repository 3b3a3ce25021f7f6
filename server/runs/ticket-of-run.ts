import type { ReadTools } from '#core/kinds/kind.ts'
import type { PhoneModel } from '#core/phones/capability.ts'
import { findModel } from '#core/phones/models.ts'
import { LinkError, sinkOf, type Place, type Connection, type Sink, type Source } from '../endpoints/endpoint.ts'
import { withFilmsInPhotos } from '../endpoints/films.ts'
import { findEndpoint } from '../endpoints/find-endpoint.ts'
import { readBench, stationOf } from '../endpoints/ports.ts'
import { createToolsFor, type Place as ReadPlace } from '../vault/read-tools.ts'
import { type TicketKeys } from '../vault/keys.ts'
import { manyKinds, manyPhones, oneTicketById, setPlace, type KindRow, type PhoneRow, type TicketRow } from '../case/tickets.queries.ts'
import { Problem } from '../base/problem.ts'
import { patience, type Clock } from '../base/patience.ts'
import { MustWait, type RunContext } from './context.ts'
import { holdingKeys, type KeyPlaces } from '../vault/holdings.ts'
import type { HoldingId } from '../base/ids.ts'

/** What a run needs to know of its ticket. */
export interface RunTicket {
  readonly ticket: TicketRow
  readonly holding: HoldingId
  readonly keys: TicketKeys
  readonly old: PhoneRow
  readonly new: PhoneRow
  readonly kinds: readonly KindRow[]
  /** What records of a phone in that place are read with. */
  readonly toolsFor: (place: ReadPlace) => ReadTools
  /** The phone that takes. */
  readonly target: PhoneModel
}

/** @throws MustWait when the ticket was erased meanwhile */
export async function loadRunTicket({ services, run }: RunContext): Promise<RunTicket> {
  const { pool, config } = services
  const ticket = await oneTicketById(pool, run.ticket_id)
  if (!ticket.holding) throw new MustWait('TicketErased', null)
  const phones = await manyPhones(pool, [ticket.id])
  const phone = (side: 'old' | 'new') => phones.find((p) => p.side === side)!
  return {
    ticket,
    holding: ticket.holding,
    keys: keysOrWait(config, ticket.holding),
    old: phone('old'),
    new: phone('new'),
    kinds: await manyKinds(pool, [ticket.id]),
    // the ticket's day: occurrences are told for two years either side
    toolsFor: createToolsFor(ticket.created_at.getTime()),
    // where its clock is, is known once it was attached
    get target() {
      return { ...findModel(phone('new')), zone: phone('new').zone }
    },
  }
}

/** @throws MustWait `KeyAway` while the folder of keys can't be reached */
function keysOrWait(config: KeyPlaces, holding: HoldingId): TicketKeys {
  try {
    return holdingKeys(config, holding)
  } catch (error) {
    if (error instanceof Problem && error.code === 'KeyAway') throw new MustWait('KeyAway', null)
    throw error
  }
}

export interface Attached {
  readonly source: Source
  readonly place: Place
  /** @throws LinkError `PermissionMissing` where nothing can be written */
  readonly sink: Sink
}

/** Attaches a side of the ticket and makes sure that it is that phone. @throws MustWait */
export function attach({ services }: RunContext, phone: PhoneRow): Promise<Attached> {
  return orWait(phone.side, async () => {
    const endpoint = await findEndpoint(services, phone)
    const connection = await endpoint.attach().catch(async (error: unknown) => {
      const isAway = error instanceof LinkError && error.code === 'NotPlugged' && services.config.stations.length > 1
      if (isAway && stationOf(await readBench(services), phone.serial)) throw new MustWait('AtOtherStation', phone.side)
      throw error
    })
    const place = await connection.place()
    // what is no phone is found by what the ticket says it is
    if (phone.place === 'bench' && place.serial !== phone.serial) throw new LinkError('NotPlugged')
    await setPlace(services.pool, phone, place)
    phone.region = place.region
    phone.zone = place.zone
    return attachedTo(phone.films_in_photos && phone.place === 'bench' ? withFilmsInPhotos(connection) : connection, place)
  })
}

/** What steps work with, of a connection. */
export function attachedTo(connection: Connection, place: Place): Attached {
  return {
    source: connection.source,
    place,
    get sink() {
      return sinkOf(connection)
    },
  }
}

/** Turns a failure of the link into waiting for that phone. */
export async function orWait<T>(side: 'old' | 'new', work: () => Promise<T>, kind: string | null = null): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof LinkError) throw new MustWait(error.code, side, kind)
    throw error
  }
}

/**
 * Waits until a phone's own count has stood still for its settling time.
 * @throws MustWait `StillSettling` when it never does
 */
export async function waitUntilStill(
  { progress, services: { clock } }: Pick<RunContext, 'progress'> & { readonly services: { readonly clock: Clock } },
  { source, place }: { readonly source: Pick<Source, 'count'>; readonly place: Pick<Place, 'settleMs'> },
  kind: string,
): Promise<void> {
  const { leastMs, lookMs, times, graceMs } = patience.still
  const quietMs = Math.max(place.settleMs, leastMs)
  const count = () => orWait('new', () => source.count(kind))
  let last = await count()
  let stillSince = clock.now()
  const giveUp = stillSince + quietMs * times + graceMs
  while (clock.now() - stillSince < quietMs) {
    await clock.sleep(Math.min(lookMs, quietMs / 3))
    await progress('settling', last.items, last.items + 1)
    const now = await count()
    if (now.items !== last.items || now.revision !== last.revision) stillSince = clock.now()
    last = now
    if (clock.now() > giveUp) throw new MustWait('StillSettling', 'new')
  }
}
