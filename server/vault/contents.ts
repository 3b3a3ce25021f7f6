import { formOn } from '#core/kinds/form.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { FoundFile, ReadTools } from '#core/kinds/kind.ts'
import type { PhoneModel } from '#core/phones/capability.ts'
import type { Client } from '../base/db/sql.ts'
import { openBodies } from './blocks.ts'
import { openText, sealText, type TicketKeys } from './keys.ts'
import type { ReadingId } from '../base/ids.ts'

export interface WhereSealed {
  readonly reading_id: ReadingId
  readonly block: number
  readonly slot: number
}

/** What the phone gave of each place, in order; each block is opened once. */
export async function openContents(client: Client, keys: TicketKeys, places: readonly WhereSealed[]): Promise<Buffer[]> {
  const blocks = new Map<string, Buffer[]>()
  for (const readingId of new Set(places.map((place) => place.reading_id))) {
    const nos = places.filter((place) => place.reading_id === readingId).map((place) => place.block)
    for (const [no, bodies] of await openBodies(client, keys, readingId, nos)) blocks.set(`${readingId} ${no}`, bodies)
  }
  return places.map((place) => blocks.get(`${place.reading_id} ${place.block}`)![place.slot]!)
}

/** The facts a record states, as it is or in the form it takes on a phone, with what was made of its files; none when it can't be read. */
export function factsOf(
  kindCode: string,
  body: Buffer,
  { tools, target, made }: { tools: ReadTools; target: PhoneModel | null; made?: Made | undefined },
): string[] {
  const kind = kindOf(kindCode)
  const read = kind.read(body, tools)
  if (!read.ok) return []
  if (!target) return kind.atoms(read.item, tools)
  const changed = formOn(kind, read.item, target)
  return 'cannot' in changed ? [] : kind.atoms(made && kind.withMade ? kind.withMade(changed.item, made) : changed.item, tools)
}

export type Made = ReadonlyMap<string, FoundFile>

/** What was made of an item at its turn, as it is sealed beside its entry. */
export function sealMade(keys: TicketKeys, seq: number, made: Made): Buffer {
  return sealText(keys, `made ${seq}`, JSON.stringify([...made]))
}

export function openMade(keys: TicketKeys, { seq, made }: { seq: number; made: Buffer | null }): Made | undefined {
  return made ? new Map(JSON.parse(openText(keys, `made ${seq}`, made)) as [string, FoundFile][]) : undefined
}
