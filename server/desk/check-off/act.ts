import type { z } from 'zod'
import type { againBody, takeAwayBody } from '#contracts/http/ticket.ts'
import type { Actor } from '../../base/did.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { askAway } from '../../book/batches/batches.queries.ts'
import { carryAgain } from '../../book/entries/entries.queries.ts'
import { readLedgers } from '../../book/ledger.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { dropAccepted, setAccepted } from '../../case/tickets.queries.ts'
import { readBench } from '../../endpoints/ports.ts'
import { startRun } from '../../runs/start-run.ts'
import { sealText } from '../../vault/keys.ts'
import { kindRow, mayDo } from '../guard.ts'
import { holdingKeys } from '../../vault/holdings.ts'

/** Counts both phones afresh and compares. @throws Problem `NotCarried`, `PhoneBusy`, `AtTwoStations` */
export async function startCheck(services: Services, number: string, actor: Actor): Promise<number> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { phones, kinds }) => {
    await mayDo(client, 'check', { ticket, kinds })
    return startRun(client, { ticket, type: 'check-off', phones, ports, actor })
  })
}

/**
 * Puts what was lost, refused or let go back among what waits, so that it is carried again. What was written of it
 * before stays in the list of what was written. Answers how many.
 */
export function putBackToWait(
  services: Services,
  number: string,
  { kind, fates }: { kind: string } & z.infer<typeof againBody>,
): Promise<number> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    await mayDo(client, 'again', { ticket, kinds: [kindRow(kinds, kind)] })
    return carryAgain(client, { ticketId: ticket.id, kind }, fates)
  })
}

/** The customer accepts a difference by name; it holds for these figures only. @throws Problem `NothingToAccept` */
export function acceptDifference(services: Services, number: string, { kind, by }: { kind: string; by: string }): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    await mayDo(client, 'accept', { ticket, kinds: [kindRow(kinds, kind)] })
    const row = (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!.find((r) => r.kind === kind)!
    if (row.verdict !== 'differs') throw new Problem('NothingToAccept')
    const keys = holdingKeys(services.config, ticket.holding!)
    await setAccepted(client, { ticketId: ticket.id, kind, by: sealText(keys, 'accepted', by), short: row.short, over: row.over })
  })
}

/** The customer does not accept the difference after all. @throws Problem `TicketSigned`, `TicketCalledOff` */
export function takeBackAcceptance(services: Services, number: string, kind: string): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    await mayDo(client, 'accept', { ticket, kinds: [kindRow(kinds, kind)] })
    await dropAccepted(client, { ticketId: ticket.id, kind })
  })
}

/**
 * Takes away what this ticket left behind on the new phone, and counts afresh. What reads otherwise than it was
 * written goes only when that is asked for, with the number typed.
 * @throws Problem `NothingLeftBehind`, `NumberNotTyped`, `PhoneBusy`, `AtTwoStations`
 */
export async function takeAway(
  services: Services,
  number: string,
  { kind, actor, body }: { kind: string; actor: Actor; body: z.infer<typeof takeAwayBody> },
): Promise<number> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    await mayDo(client, 'takeAway', { ticket, kinds: [kindRow(kinds, kind)] })
    if (body.changed && body.typed.trim().toUpperCase() !== ticket.number) throw new Problem('NumberNotTyped')
    const seqs = body.keys?.map((key) => Number(key.replace('new-', ''))) ?? null
    const asked = await askAway(client, { ticketId: ticket.id, kind, seqs, withChanged: body.changed })
    if (asked === 0) throw new Problem('NothingLeftBehind')
    return startRun(client, { ticket, type: 'take-away', phones, ports, actor })
  })
}
