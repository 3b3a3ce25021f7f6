import { hkdfSync, randomBytes, randomUUID } from 'node:crypto'
import type { Config } from '../base/config.ts'
import { Problem } from '../base/problem.ts'
import { folderOfKeys } from './key-store.ts'
import { hashSerial, keysFrom, open, seal, type TicketKeys } from './keys.ts'
import type { HoldingId } from '../base/ids.ts'

/**
 * Who owns sealed contents. A holding’s key is wrapped by the shop’s master key in a file of its own, never in the
 * database: when that file is gone, what was sealed stays sealed, whatever the database’s own files still hold.
 */
export type KeyPlaces = Pick<Config, 'masterKey' | 'keysFolder'>

/** The holding under whose name the key of serials is kept, where it is not the master key’s own. */
const serials = 'serials' as HoldingId
const boundTo = (holding: HoldingId) => `holding ${holding}`

/** Keeps a secret as a holding’s. */
export function keepSecret({ masterKey, keysFolder }: KeyPlaces, holding: HoldingId, secret: Buffer): void {
  folderOfKeys(keysFolder).put(holding, seal(masterKey, boundTo(holding), secret))
}

/** @throws Problem `KeyAway` when it is not there */
export function secretOf(places: KeyPlaces, holding: HoldingId): Buffer {
  const secret = findSecret(places, holding)
  if (!secret) throw new Problem('KeyAway')
  return secret
}

/** The same, or undefined when it is not there. */
export function findSecret({ masterKey, keysFolder }: KeyPlaces, holding: HoldingId): Buffer | undefined {
  const wrapped = folderOfKeys(keysFolder).find(holding)
  return wrapped && open(masterKey, boundTo(holding), wrapped)
}

/** A new holding with a key of its own. */
export function newHolding(places: KeyPlaces): { id: HoldingId; keys: TicketKeys } {
  const [id, key] = [randomUUID() as string as HoldingId, randomBytes(32)]
  keepSecret(places, id, key)
  return { id, keys: keysFrom(key) }
}

/** The keys of a holding. @throws Problem `KeyAway` when its file is not there */
export function holdingKeys(places: KeyPlaces, id: HoldingId): TicketKeys {
  return keysFrom(secretOf(places, id))
}

/** The same, or null where there is no holding any more, or its key can't be reached: what is shown goes on without words. */
export function findKeys(places: KeyPlaces, id: HoldingId | null): TicketKeys | null {
  const secret = id === null ? undefined : findSecret(places, id)
  return secret ? keysFrom(secret) : null
}

/** Overwrites and removes the key of a holding: nothing that was sealed by it opens any more. */
export function destroyKey({ keysFolder }: Pick<KeyPlaces, 'keysFolder'>, id: HoldingId): void {
  folderOfKeys(keysFolder).destroy(id)
}

const serialKeyOf = (masterKey: Buffer) => Buffer.from(hkdfSync('sha256', masterKey, Buffer.alloc(0), 'serial', 32))

/** A phone's serial under the shop's own key: equal for the same phone on every ticket, and nothing to read. */
export function serialHash(places: KeyPlaces, serial: string): Buffer {
  return hashSerial(findSecret(places, serials) ?? serialKeyOf(places.masterKey), serial)
}

/** Past tickets are found by serials hashed under a former master key: its key of serials goes on. */
export function keepSerialKey(places: KeyPlaces, former: Buffer): void {
  if (!folderOfKeys(places.keysFolder).find(serials)) keepSecret(places, serials, serialKeyOf(former))
}

/** Forgets keys of holdings that are nobody’s: of a booking that failed, of a process that was killed. Answers which. @param strayOf which of them are nobody’s */
export async function forgetStrayKeys(
  { keysFolder }: Pick<KeyPlaces, 'keysFolder'>,
  { olderThanMs, strayOf }: { olderThanMs: number; strayOf: (holdings: readonly HoldingId[]) => Promise<readonly HoldingId[]> },
): Promise<readonly HoldingId[]> {
  const store = folderOfKeys(keysFolder)
  const old = store.all().filter(({ holding, atMs }) => holding !== serials && Date.now() - atMs >= olderThanMs)
  const stray = old.length === 0 ? [] : await strayOf(old.map(({ holding }) => holding))
  for (const holding of stray) store.destroy(holding)
  return stray
}
