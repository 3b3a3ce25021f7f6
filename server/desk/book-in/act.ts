import type { BookIn } from '#contracts/http/ticket.ts'
import { judgeIntake } from '#core/phones/intake.ts'
import type { Actor } from '../../base/did.ts'
import type { CopyId, TicketId } from '../../base/ids.ts'
import { sqlState, transaction, type Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { insertAct } from '../../case/acts.queries.ts'
import { insertKind, insertPhone, insertTicket, tellTicket } from '../../case/tickets.queries.ts'
import { keepBench } from '../../ready/keeper.ts'
import { secretByPassphrase } from '../../vault/lockers/passphrase.ts'
import { setPassword } from '../../endpoints/archives/archives.queries.ts'
import { passwordBound } from '../../endpoints/makers/folder.ts'
import { sealCopyKey, serialOfCopy } from '../../endpoints/makers/locker.ts'
import { insertCopy } from '../../vault/lockers/copies.queries.ts'
import { endOfDay } from '../lockers/act.ts'
import { copyToRead } from '../lockers/copies.ts'
import { readingOf } from '../lockers/look.ts'
import { isCarried, kindsOfCopy, kindsOfFile } from './kinds.ts'
import { insertHolding } from '../../vault/holdings.queries.ts'
import { newHolding } from '../../vault/holdings.ts'
import { sealText } from '../../vault/keys.ts'

/** How a locker stands on a ticket where a phone would. */
const lockerPhone = { maker: 'Locker', model: 'locker', platform: 'locker', version: '' }
/** How what is taken home stands there. */
const folderPhone = { maker: 'Files', model: 'Files', platform: 'folder', version: '' }
/** What is taken home goes with its ticket; a ticket nobody ends does not keep it for ever. */
const mostDays = 365

/** The copy a ticket makes, kept until the end of a day of the shop’s. @throws Problem `BadRequest` when that day is over */
async function newCopy(
  client: Client,
  { id: holding, keys }: ReturnType<typeof newHolding>,
  { id, body, actor }: { id: TicketId; body: BookIn; actor: Actor },
): Promise<CopyId> {
  await insertHolding(client, { id: holding, purpose: 'locker' })
  const isKept = body.new.place === 'locker'
  const keepUntil = isKept ? await endOfDay(client, body.new.keepUntil!) : new Date(Date.now() + mostDays * 86_400_000)
  return insertCopy(client, {
    holding,
    ticketId: id,
    staffId: actor.id,
    customer: sealText(keys, 'customer', JSON.stringify({ name: body.customer.name })),
    keepUntil,
    purpose: isKept ? 'keep' : 'take-home',
  })
}

/** Books a ticket in. @throws Problem `SamePhoneTwice`, `PhoneOnOtherTicket`, `FileUnreadable`, `MustNotTake`, `BadRequest`, `CopyGone`, `CopyNewer`, `CopyClosed`, `WrongPassphrase`, `PassphraseThrottled` */
export async function bookIn(services: Services, body: BookIn, actor: Actor): Promise<string> {
  const { pool, config } = services
  const serialOf = ({ place, upload, copy, serial }: BookIn['old']) => {
    if (place === 'file') return upload ? `file-${upload}` : null
    return place === 'locker' && copy !== undefined ? readingOf(copy as CopyId) : serial
  }
  const serials = { old: serialOf(body.old), new: serialOf(body.new) }
  if (serials.old !== null && serials.old === serials.new) throw new Problem('SamePhoneTwice')
  if (judgeIntake(body.intake).verdict === 'no') throw new Problem('MustNotTake')
  // of a booking that is refused, its key goes with other stray ones
  const { id: holding, keys } = newHolding(config)
  // before anything is booked: making its key takes a moment, and a wrong one books nothing
  const secret =
    body.old.place === 'locker' && body.old.passphrase !== undefined
      ? await secretByPassphrase(services, body.old.copy as CopyId, body.old.passphrase)
      : null
  const isCopied = body.new.place === 'locker' || body.new.place === 'folder'
  const copyHolding = isCopied ? newHolding(config) : null
  try {
    const booked = await transaction(pool, async (client) => {
      const kept = body.old.place === 'locker' ? await copyToRead(client, body.old.copy as CopyId) : null
      const given = kept
        ? await kindsOfCopy(client, kept.id)
        : body.old.place === 'file'
          ? await kindsOfFile(client, body.old.upload)
          : null
      // of a file, only what it holds can be asked for: nobody waits for a permission that nothing needs
      const wanted = [...new Set(body.kinds)].filter((kind) => given === null || given.includes(kind))
      const carried = wanted.filter(isCarried)
      if (carried.length === 0) throw new Problem('BadRequest', { fields: ['kinds'] })
      await insertHolding(client, { id: holding, purpose: 'ticket' })
      const { id, number } = await insertTicket(client, {
        holding,
        customer: sealText(keys, 'customer', JSON.stringify(body.customer)),
        promisedAt: body.promisedAt,
        waitsInShop: body.waitsInShop,
        staffId: actor.id,
        wanted,
        intake: body.intake,
      })
      if (kept?.is_closed && !secret) throw new Problem('CopyClosed')
      const { upload, ...old } = body.old
      await insertPhone(client, id, 'old', {
        ...old,
        // as the copy knows its phone, whatever the form says
        ...(kept ? { maker: kept.maker, model: kept.model, platform: kept.platform, version: kept.version } : {}),
        serial: serials.old,
        uploadId: old.place === 'file' ? (upload ?? null) : null,
        copyId: kept?.id ?? null,
        copyKey: kept && secret ? sealCopyKey(keys, kept.id, secret) : null,
      })
      const made = copyHolding && (await newCopy(client, copyHolding, { id, body, actor }))
      await insertPhone(client, id, 'new', {
        ...body.new,
        ...(made ? (body.new.place === 'locker' ? lockerPhone : folderPhone) : {}),
        serial: made ? serialOfCopy(made) : serials.new,
        uploadId: null,
        copyId: made ?? null,
        copyKey: null,
      })
      if (body.new.place === 'folder' && body.new.password)
        await setPassword(client, id, sealText(keys, passwordBound(id), body.new.password))
      for (const kind of carried) await insertKind(client, id, kind)
      await insertAct(client, id, actor.id, { what: 'booked' })
      await tellTicket(client, id, 'booked')
      return number
    })
    // how the phones stand now is how they were found: what is changed from here on is put back
    await keepBench(services).catch(() => undefined)
    return booked
  } catch (error) {
    if (sqlState(error) === 'unique_violation') throw new Problem('PhoneOnOtherTicket')
    throw error
  }
}
