import type { ActCode, ActView, CourseView } from '#contracts/http/course.ts'
import type { NoteView } from '#contracts/http/ready.ts'
import type { Actor } from '../base/did.ts'
import { insertAct, manyActs, type ActRow } from '../case/acts.queries.ts'
import { maybeStaffNamed } from '../case/staff.queries.ts'
import { guideOf, readGuides } from '../ready/guides.ts'
import { keepBench } from '../ready/keeper.ts'
import type { Client } from '../base/db/sql.ts'
import { Problem } from '../base/problem.ts'
import { forgetSide } from '../ready/ready.queries.ts'
import { voidSheet } from '../book/sheets.queries.ts'
import { voidIfMoved } from '../book/signed.ts'
import { maybeActiveRun, stopRun } from '../runs/runs.queries.ts'
import { openText, sealText, type TicketKeys } from '../vault/keys.ts'
import type { Services } from '../base/services.ts'
import { forgetReadings } from '../book/forget.queries.ts'
import { onTicket } from '../case/on-ticket.ts'
import {
  manyPhones,
  manyTicketsOfSerials,
  maybeTicket,
  namePhone,
  reopen,
  setHolder,
  setResting,
  type SeenPhone,
  type TicketRow,
} from '../case/tickets.queries.ts'
import { findKeys, holdingKeys } from '../vault/holdings.ts'
import type { StaffId, TicketId } from '../base/ids.ts'

interface Said {
  readonly words: string
  readonly actor: Actor
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
    await voidIfMoved(client, ticket.id)
    await setResting(client, ticket.id, true)
    await addNote(client, services, { ticket, what: 'rested', ...said })
  })
}

/** Takes a resting ticket up again. @throws Problem `NotResting` */
export function resume(services: Services, number: string, said: Said): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    if (!ticket.resting_at) throw new Problem('NotResting')
    await setResting(client, ticket.id, false)
    await addNote(client, services, { ticket, what: 'resumed', ...said })
  })
}

/** Hands a ticket to a colleague with a note. What runs goes on. @throws Problem `NobodyOfThatName` */
export function handOver(services: Services, number: string, { to, ...said }: Said & { to: string }): Promise<void> {
  return onTicket(services, number, async (client, ticket) => {
    const colleague = await maybeStaffNamed(client, to)
    if (!colleague) throw new Problem('NobodyOfThatName')
    await setHolder(client, ticket.id, colleague.id)
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
    await voidSheet(client, ticket.id)
    await reopen(client, ticket.id)
    await addNote(client, services, { ticket, what: 'new-exchanged', phone: now!.model, ...said })
  })
  await keepBench(services).catch(() => undefined)
}

export interface NewNote extends Said {
  readonly ticket: TicketRow
  readonly what: ActCode
  readonly toStaffId?: StaffId
  readonly phone?: string
}

export async function addNote(
  client: Client,
  { config }: Services,
  { ticket, what, actor, toStaffId, words, phone }: NewNote,
): Promise<void> {
  const keys = words ? holdingKeys(config, ticket.holding!) : null
  await insertAct(client, ticket.id, actor.id, { what, toStaffId, phone, words: words && keys ? sealText(keys, 'note', words) : undefined })
}

/** Says something a colleague should know, at any time. @throws Problem `TicketErased` */
export function note(services: Services, number: string, said: Said): Promise<void> {
  return onTicket(services, number, (client, ticket) => addNote(client, services, { ticket, what: 'note', ...said }))
}

/** A text for the customer was copied; what it says is nobody's here. @throws Problem `TicketErased` */
export function told(services: Services, number: string, { code, actor }: { code: string; actor: Actor }): Promise<void> {
  return onTicket(services, number, (client, ticket) => insertAct(client, ticket.id, actor.id, { what: 'told', code }))
}

const noteCodes: readonly ActCode[] = ['rested', 'resumed', 'handed-over', 'new-exchanged', 'called-off', 'note']
/** Of the course, what a colleague should know, the oldest first. Words can be opened while the ticket's key is there. */
export async function manyNotes(client: Client, ticketId: TicketId, keys: TicketKeys | null): Promise<NoteView[]> {
  return (await manyActs(client, ticketId, noteCodes)).map((row) => {
    const { what, by, to, phone, at, words } = actViewOf(row, keys)
    return { what: what as NoteView['what'], by: by!, to, phone, at, words }
  })
}

/** Who did what to a ticket, and what it did by itself, the oldest first; after erasing without words. @throws Problem `TicketNotFound` */
export async function readCourse(services: Services, number: string): Promise<CourseView> {
  const { pool, config } = services
  const ticket = await maybeTicket(pool, number)
  if (!ticket) throw new Problem('TicketNotFound')
  const keys = findKeys(config, ticket.holding)
  const guides = readGuides(services)
  const titles = new Map<string, string>(
    (await manyPhones(pool, [ticket.id])).flatMap((phone) =>
      guideOf(guides, phone).needs.map(({ code, title }) => [`${phone.side} ${code}`, title] as const),
    ),
  )
  const acts = (await manyActs(pool, ticket.id)).map((row) => ({
    ...actViewOf(row, keys),
    title: titles.get(`${row.side} ${row.code}`) ?? null,
  }))
  return { acts, isOpen: !ticket.signed_at && !ticket.called_off_at && !ticket.erased_at }
}

function actViewOf({ has_words: hasWords, words, at, ...row }: ActRow, keys: TicketKeys | null): Omit<ActView, 'title'> {
  return { ...row, at: at.toISOString(), hasWords, words: keys && words ? openText(keys, 'note', words) : null }
}
