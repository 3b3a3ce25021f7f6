import { isDeepStrictEqual } from 'node:util'
import type { z } from 'zod'
import type { BookingView, editBody } from '#contracts/http/ticket.ts'
import type { Actor } from '../../base/did.ts'
import { sqlState, type Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { forgetReadings } from '../../book/forget.queries.ts'
import { insertAct } from '../../case/acts.queries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import {
  manyKinds,
  manyPhones,
  maybeTicket,
  setBooking,
  setCustomer,
  setPhone,
  unnamePhone,
  type TicketRow,
} from '../../case/tickets.queries.ts'
import { keepBench } from '../../ready/keeper.ts'
import { forgetSide } from '../../ready/ready.queries.ts'
import { maybeActiveRun } from '../../runs/runs.queries.ts'
import { sealText } from '../../vault/keys.ts'
import { mayDo } from '../guard.ts'
import { openCustomer } from '../summary.ts'
import { holdingKeys } from '../../vault/holdings.ts'

type Edit = z.infer<typeof editBody>

/** What was booked, in full, for whoever changes it. @throws Problem `TicketNotFound` */
export async function readBooking(services: Services, number: string): Promise<BookingView> {
  const { pool } = services
  const ticket = await maybeTicket(pool, number)
  if (!ticket) throw new Problem('TicketNotFound')
  const [phones, kinds, run] = [
    await manyPhones(pool, [ticket.id]),
    await manyKinds(pool, [ticket.id]),
    await maybeActiveRun(pool, ticket.id),
  ]
  const isClosed = ticket.erased_at !== null || ticket.signed_at !== null || ticket.called_off_at !== null
  return {
    customer: openCustomer(services, ticket),
    promisedAt: ticket.promised_at.toISOString(),
    waitsInShop: ticket.waits_in_shop,
    bookedBy: ticket.booked_by_name,
    bookedAt: ticket.created_at.toISOString(),
    wanted: ticket.wanted,
    intake: ticket.intake,
    phones: phones.map(({ side, place, maker, model, version, serial }) => ({ side, place, maker, model, version, serial })),
    canChangePhones: !isClosed && !run && kinds.every((kind) => !kind.frozen_at),
  }
}

/**
 * Changes what was booked: the customer and the promise until the signature, the phones while nothing is written; what
 * was read of a phone that is not the same any more is forgotten.
 * @throws Problem `TicketSigned`, `TicketCalledOff`, `PhonesWritten`, `PhoneBusy`, `SamePhoneTwice`, `PhoneOnOtherTicket`
 */
export async function edit(services: Services, number: string, { body, actor }: { body: Edit; actor: Actor }): Promise<void> {
  try {
    await onTicket(services, number, async (client, ticket, { kinds, phones }) => {
      await mayDo(client, 'edit', { ticket, kinds })
      const changed: string[] = []
      if (body.customer && !isDeepStrictEqual(body.customer, openCustomer(services, ticket))) {
        const keys = holdingKeys(services.config, ticket.holding!)
        await setCustomer(client, ticket.id, sealText(keys, 'customer', JSON.stringify(body.customer)))
        changed.push('customer')
      }
      if (await changePromise(client, ticket, body)) changed.push('promise')
      const sides = (['old', 'new'] as const).filter((side) => {
        const before = phones.find((phone) => phone.side === side)!
        const now = body[side]
        return now && (['place', 'maker', 'model', 'platform', 'version', 'serial'] as const).some((field) => now[field] !== before[field])
      })
      if (sides.length > 0) {
        await mayDo(client, 'editPhones', { ticket, kinds })
        const serialOf = (side: 'old' | 'new') => (body[side] ?? phones.find((phone) => phone.side === side)!).serial
        if (serialOf('old') !== null && serialOf('old') === serialOf('new')) throw new Problem('SamePhoneTwice')
        // both serials go first: two phones may change places
        for (const side of sides) await unnamePhone(client, ticket.id, side)
        for (const side of sides) {
          await setPhone(client, ticket.id, side, body[side]!)
          await forgetSide(client, ticket.id, side)
          changed.push(side)
        }
        await forgetReadings(client, ticket.id)
      }
      for (const code of changed) await insertAct(client, ticket.id, actor.id, { what: 'edited', code })
    })
  } catch (error) {
    if (sqlState(error) === 'unique_violation') throw new Problem('PhoneOnOtherTicket')
    throw error
  }
  await keepBench(services).catch(() => undefined)
}

async function changePromise(client: Client, ticket: TicketRow, { promisedAt, waitsInShop }: Edit): Promise<boolean> {
  const at = promisedAt ? new Date(promisedAt) : ticket.promised_at
  const waits = waitsInShop ?? ticket.waits_in_shop
  if (at.getTime() === ticket.promised_at.getTime() && waits === ticket.waits_in_shop) return false
  await setBooking(client, ticket.id, { promisedAt: at, waitsInShop: waits })
  return true
}
