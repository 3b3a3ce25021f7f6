import type { NoteView } from '#contracts/http/ready.ts'
import { maybeStaffNamed } from '../auth/staff.queries.ts'
import { keepBench } from '../bench/keeper.ts'
import { many, type Client } from '../db/sql.ts'
import { Problem } from '../http/problem.ts'
import { forgetSide } from '../ready/ready.queries.ts'
import { maybeActiveRun, stopRun } from '../runs/runs.queries.ts'
import { openText, sealText, ticketKeys, type TicketKeys } from '../seal/keys.ts'
import type { Services } from '../services.ts'
import { forgetReadings, namePhone, type SeenPhone } from '../tickets/roles.ts'
import { onTicket } from '../tickets/on-ticket.ts'
import { manyTicketsOfSerials, type TicketRow } from '../tickets/tickets.queries.ts'

interface Said {
  readonly words: string
  readonly staffId: number
}

/**
 * Stops and gives both phones back now: what is over stays over, the ledger as it stands is on an interim sheet, and
 * the ticket rests until it is taken up again on any ports. @throws Problem `TicketRests`
 */
export function rest(services: Services, number: string, said: Said): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    if (ticket.resting_at) throw new Problem('TicketRests')
    const run = await maybeActiveRun(client, ticket.id)
    if (run) await stopRun(client, run.id)
    await client.query('update ticket set resting_at = now() where id = $1', [ticket.id])
    await addNote(client, services, { ticket, what: 'rested', ...said })
  })
}

/** Takes a resting ticket up again. @throws Problem `NotResting` */
export function resume(services: Services, number: string, said: Said): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    if (!ticket.resting_at) throw new Problem('NotResting')
    await client.query('update ticket set resting_at = null where id = $1', [ticket.id])
    await addNote(client, services, { ticket, what: 'resumed', ...said })
  })
}

/** Hands a ticket to a colleague with a note. What runs goes on. @throws Problem `NobodyOfThatName` */
export function handOver(services: Services, number: string, { to, ...said }: Said & { to: string }): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    const colleague = await maybeStaffNamed(client, to)
    if (!colleague) throw new Problem('NobodyOfThatName')
    await client.query('update ticket set held_by = $2 where id = $1', [ticket.id, colleague.id])
    await addNote(client, services, { ticket, what: 'handed-over', toStaffId: colleague.id, ...said })
  })
}

/**
 * Exchanges a faulty new phone for another, also after writing began: both phones are read again, choices are kept,
 * and nothing of what the faulty one took counts any more. @throws Problem `PhoneBusy`, `SamePhoneTwice`, `SamePhoneAgain`, `PhoneOnOtherTicket`, `NotPlugged`
 */
export async function exchangeNew(
  services: Services,
  number: string,
  { serial, seen, ...said }: Said & { serial: string; seen: readonly SeenPhone[] },
): Promise<void> {
  await onTicket(services, number, async (client, ticket, { phones }) => {
    if (await maybeActiveRun(client, ticket.id)) throw new Problem('PhoneBusy')
    const [old, now] = (['old', 'new'] as const).map((side) => phones.find((phone) => phone.side === side)!)
    if (serial === now!.serial) throw new Problem('SamePhoneAgain')
    if (serial === old!.serial) throw new Problem('SamePhoneTwice')
    const others = await manyTicketsOfSerials(client, [serial])
    if (others.length > 0) throw new Problem('PhoneOnOtherTicket')
    const phone = seen.find((p) => p.serial === serial)
    if (!phone) throw new Problem('NotPlugged')
    await namePhone(client, { ticketId: ticket.id, side: 'new', seen: phone })
    await forgetSide(client, ticket.id, 'new')
    await forgetReadings(client, ticket.id)
    await client.query(
      'update ticket set roles_frozen_at = null, exchange_answered_at = null, signed_at = null, signed_by = null where id = $1',
      [ticket.id],
    )
    await addNote(client, services, { ticket, what: 'new-exchanged', phone: now!.model, ...said })
  })
  await keepBench(services).catch(() => undefined)
}

interface NewNote extends Said {
  readonly ticket: TicketRow
  readonly what: NoteView['what']
  readonly toStaffId?: number
  readonly phone?: string
}

async function addNote(client: Client, { config }: Services, { ticket, what, staffId, toStaffId, words, phone }: NewNote): Promise<void> {
  const keys = ticketKeys(config.masterKey, ticket.key_wrapped!)
  await client.query(`insert into ticket_note (ticket_id, what, staff_id, to_staff_id, words, phone) values ($1, $2, $3, $4, $5, $6)`, [
    ticket.id,
    what,
    staffId,
    toStaffId ?? null,
    words ? sealText(keys, 'note', words) : null,
    phone ?? null,
  ])
}

/** The course of a ticket beside its counts, the oldest first. Words can be opened while the ticket's key is there. */
export async function manyNotes(client: Client, ticketId: number, keys: TicketKeys | null): Promise<NoteView[]> {
  const rows = await many<{ what: NoteView['what']; by: string; to: string | null; words: Buffer | null; phone: string | null; at: Date }>(
    client,
    `select n.what, s.name as by, t.name as to, n.words, n.phone, n.at
       from ticket_note n
       join staff s on s.id = n.staff_id
       left join staff t on t.id = n.to_staff_id
      where n.ticket_id = $1
      order by n.id`,
    [ticketId],
  )
  return rows.map(({ words, at, ...row }) => ({
    ...row,
    words: keys && words ? openText(keys, 'note', words) : null,
    at: at.toISOString(),
  }))
}
