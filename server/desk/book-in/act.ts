import type { BookIn } from '#contracts/http/ticket.ts'
import { judgeIntake } from '#core/phones/intake.ts'
import type { Actor } from '../../base/did.ts'
import { sqlState, transaction } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { insertAct } from '../../case/acts.queries.ts'
import { insertKind, insertPhone, insertTicket, tellTicket } from '../../case/tickets.queries.ts'
import { keepBench } from '../../ready/keeper.ts'
import { isCarried, kindsOfFile } from './kinds.ts'
import { insertHolding } from '../../vault/holdings.queries.ts'
import { newHolding } from '../../vault/holdings.ts'
import { sealText } from '../../vault/keys.ts'

/** Books a ticket in. @throws Problem `SamePhoneTwice`, `PhoneOnOtherTicket`, `FileUnreadable`, `MustNotTake`, `BadRequest` */
export async function bookIn(services: Services, body: BookIn, actor: Actor): Promise<string> {
  const { pool, config } = services
  const serialOf = (phone: BookIn['old']) => (phone.place === 'file' ? (phone.upload ? `file-${phone.upload}` : null) : phone.serial)
  const serials = { old: serialOf(body.old), new: serialOf(body.new) }
  if (serials.old !== null && serials.old === serials.new) throw new Problem('SamePhoneTwice')
  if (judgeIntake(body.intake).verdict === 'no') throw new Problem('MustNotTake')
  // of a booking that is refused, its key goes with other stray ones
  const { id: holding, keys } = newHolding(config)
  try {
    const booked = await transaction(pool, async (client) => {
      const given = body.old.place === 'file' ? await kindsOfFile(client, body.old.upload) : null
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
      for (const side of ['old', 'new'] as const) {
        const { upload, ...phone } = body[side]
        await insertPhone(client, id, side, { ...phone, serial: serials[side], uploadId: phone.place === 'file' ? (upload ?? null) : null })
      }
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
