import type { Actor } from '../../base/did.ts'
import { insertThumbnail, maybePlace, maybeThumbnail } from '../../book/listing/places.queries.ts'
import { embeddedPreview, headBytes } from '#core/formats/image/inspect.ts'
import { isFilm, sniffType } from '#core/formats/sniff.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { EntryFilter } from '#contracts/http/ledger.ts'
import { Problem } from '../../base/problem.ts'
import { LinkError, type Source } from '../../endpoints/endpoint.ts'
import { findEndpoint } from '../../endpoints/find-endpoint.ts'
import { readSome } from '../../endpoints/read-some.ts'
import { openContents } from '../../vault/contents.ts'
import { readTools } from '../../vault/read-tools.ts'
import { maybeActiveRun } from '../../runs/runs.queries.ts'
import { open as openSealed, seal, type TicketKeys } from '../../vault/keys.ts'
import { perShop } from '../../base/per-shop.ts'
import type { Services } from '../../base/services.ts'
import { onOpenTicket } from './entries.ts'
import { manyPhones, type PhoneRow } from '../../case/tickets.queries.ts'
import { sourceOf } from '../../book/listing/listing.queries.ts'
import { converter, mostPictureBytes, NotConverted } from '../../line/moving/converter.ts'
import type { ReadingId } from '../../base/ids.ts'

const side = 160

/** What these open to is of the first count. */
const ofFirst: ReadonlySet<string> = new Set(['first', 'cleared', 'absorbed', 'missing'])

interface Place {
  readonly readingId: ReadingId
  readonly seq: number
  readonly keys: TicketKeys
}

const bound = ({ readingId, seq }: Place) => `thumbnail ${readingId} ${seq}`

/** How long a connection that gives small pictures is kept for the next one. */
const keptMs = 15_000
const keptOf = perShop(() => new Map<string, { source: Promise<Source>; at: number }>())

/**
 * A small JPEG of one photo, only while showing is allowed: the sealed one that was made before; else the one its
 * camera put in; else decoded; of a film the one its phone has. Undefined where there is none.
 * @throws Problem `ShowingNotAllowed`, `PhoneBusy` while a run works with the phone, `NotFound`, the link's own codes
 */
export async function readThumbnail(
  services: Services,
  number: string,
  { kind: code, key, filter, actor }: { kind: string; key: string; filter: EntryFilter; actor: Actor },
): Promise<Uint8Array | undefined> {
  const found = await onOpenTicket(services, number, { kindCode: code, actor }, async ({ client, ticket, kind, keys, isShowing }) => {
    if (!isShowing) throw new Problem('ShowingNotAllowed')
    const source = sourceOf(filter, kind)
    const seq = Number(key.slice(4))
    const place = await maybePlace(client, {
      ticketId: ticket.id,
      kind: code,
      seq,
      isOld: source.side === 'old',
      readingId: ofFirst.has(filter) ? kind.first_reading : (kind.last_reading ?? kind.first_reading),
    })
    if (!place) throw new Problem('NotFound')
    const sealed = await maybeThumbnail(client, place)
    const phones = await manyPhones(client, [ticket.id])
    const [body] = await openContents(client, keys, [place])
    const read = kindOf(code).read(
      body!,
      readTools(
        phones.find((phone) => phone.side === source.side)!,
        ticket.created_at.getTime(),
      ),
    )
    return {
      at: { readingId: place.reading_id, seq: place.item_seq, keys },
      sealed: sealed?.sealed,
      shown: read.ok ? kindOf(code).shown?.(read.item) : undefined,
      phone: phones.find((phone) => phone.side === source.side)!,
      isBusy: (await maybeActiveRun(client, ticket.id)) !== undefined,
    }
  })
  if (found.sealed) return found.sealed.length === 0 ? undefined : openSealed(found.at.keys.seal, bound(found.at), found.sealed)
  const { shown } = found
  if (!shown) return undefined
  // a connection of ours would end the run's
  if (found.isBusy) throw new Problem('PhoneBusy')
  const made = await makeSmall(services, found.phone, code, shown)
  await insertThumbnail(services.pool, {
    readingId: found.at.readingId,
    seq: found.at.seq,
    sealed: made ? seal(found.at.keys.seal, bound(found.at), made) : Buffer.alloc(0),
  })
  return made
}

async function attachedSource(services: Services, phone: PhoneRow): Promise<Source> {
  const id = `${phone.ticket_id} ${phone.side}`
  const kept = keptOf(services)
  const mine = kept.get(id)
  if (mine && Date.now() - mine.at < keptMs) return mine.source
  const source = findEndpoint(services, phone).then(async (endpoint) => (await endpoint.attach()).source)
  kept.set(id, { source, at: Date.now() })
  source.catch(() => kept.delete(id))
  return source
}

async function makeSmall(
  services: Services,
  phone: PhoneRow,
  kind: string,
  { handle, by }: { readonly handle: string; readonly by: 'bytes' | 'phone' },
): Promise<Uint8Array | undefined> {
  for (let attempt = 1; ; attempt++) {
    try {
      const source = await attachedSource(services, phone)
      if (by === 'phone') return await source.openPreview?.(kind, handle)
      const head = await readSome(source, kind, handle, headBytes)
      const embedded = await embeddedPreview(head)
      if (embedded) return embedded
      const type = sniffType(head)
      if (!type || isFilm(type)) return undefined
      const whole = head.length < headBytes ? head : await readSome(source, kind, handle, mostPictureBytes)
      return await converter().run(whole, type, { as: 'tile', side })
    } catch (error) {
      if (error instanceof NotConverted) return undefined
      if (!(error instanceof LinkError)) throw error
      keptOf(services).delete(`${phone.ticket_id} ${phone.side}`)
      if (error.code !== 'ConnectionTaken' || attempt > 1) throw new Problem(error.code)
    }
  }
}
