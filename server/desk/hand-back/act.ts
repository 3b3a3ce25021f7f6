import type { z } from 'zod'
import type { callOffBody, signBody } from '#contracts/http/ticket.ts'
import type { Actor } from '../../base/did.ts'
import type { Client } from '../../base/db/sql.ts'
import { Problem } from '../../base/problem.ts'
import type { Services } from '../../base/services.ts'
import { askAllAway } from '../../book/batches/batches.queries.ts'
import { closeWaiting, leaveByHand } from '../../book/entries/entries.queries.ts'
import { askUndo } from '../../book/joining/joining.queries.ts'
import { readLedgers } from '../../book/ledger.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { setCalledOff, setPrinted, setSigned } from '../../case/tickets.queries.ts'
import { readBench } from '../../endpoints/ports.ts'
import { readGuides } from '../../ready/guides.ts'
import { readReadyRows, readSide } from '../../ready/ready.ts'
import { maybeActiveRun, stopRun } from '../../runs/runs.queries.ts'
import { startRun } from '../../runs/start-run.ts'
import { sealText } from '../../vault/keys.ts'
import { addNote } from '../course.ts'
import { mayDo } from '../guard.ts'
import { keepSheet, makeSheet } from './sheet.ts'
import type { OnBench } from '../ready/must-be-ready.ts'
import { mayHandOver } from '../stage.ts'
import { findKeys, holdingKeys } from '../../vault/holdings.ts'

/**
 * The sheet is signed: it is final only when every setting is put back or waived by name. Where not all agrees, it is
 * signed with what stands: each difference that nobody accepted is named as open, and what still waits is left behind.
 * @throws Problem `NotAgreed`, `PutBackOpen`, `PhoneBusy`, `TicketSigned` while a signed sheet is in force
 */
export async function sign(
  services: Services,
  number: string,
  { by, withWhatStands = false, actor }: z.input<typeof signBody> & { readonly actor: Actor },
): Promise<void> {
  const { ports } = await readBench(services)
  // what is signed is the page that was printed, not what signing makes of it
  const sheet = await makeSheet(services, number, actor)
  return onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    await mayDo(client, 'sign', { ticket, kinds })
    if (await isPutBackOpen(client, services, { ticket, phones, ports })) throw new Problem('PutBackOpen')
    const ledgerNow = async () => (await readLedgers(client, { tickets: [ticket], kinds, runs: [] })).get(ticket.id)!
    const isAgreed = mayHandOver(await ledgerNow())
    if (!isAgreed && !withWhatStands) throw new Problem('NotAgreed')
    for (const { kind } of kinds) {
      const scope = { ticketId: ticket.id, kind }
      // what is still to be installed by hand is the customer's from here on
      if (isAgreed) await leaveByHand(client, scope)
      else await closeWaiting(client, scope, 'open-at-signing')
    }
    const keys = holdingKeys(services.config, ticket.holding!)
    await setSigned(client, ticket.id, { by: sealText(keys, 'signed', by), isOpen: !isAgreed })
    await keepSheet(client, { ticketId: ticket.id, keys, sheet, ledger: await ledgerNow() })
  })
}

/** The sheet was printed: it may be erased without asking. @throws Problem `TicketNotFound` */
export function notePrinted(services: Services, number: string): Promise<void> {
  return onTicket(services, number, (client, ticket) => setPrinted(client, ticket.id))
}

async function isPutBackOpen(client: Client, services: Services, { ticket, phones, ports }: OnBench): Promise<boolean> {
  const rows = await readReadyRows(client, [ticket.id])
  const guides = readGuides(services)
  return (['old', 'new'] as const).some((side) =>
    readSide({ ticket, phones, side, ports, guides, rows }).putBack.some(({ state }) => state === 'open'),
  )
}

/**
 * Calls a ticket off: nothing more is carried, and its data can be erased. What was written stays on the new phone, or
 * is taken away, as far as it still says what was written; then the phones are counted once more.
 * @throws Problem `TicketSigned`, `TicketCalledOff`, `NumberNotTyped`, `NotPlugged`, `PhoneBusy`, `AtTwoStations`
 */
export async function callOff(
  services: Services,
  number: string,
  { body, actor }: { body: z.infer<typeof callOffBody>; actor: Actor },
): Promise<void> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    await mayDo(client, 'callOff', { ticket, kinds })
    if (body.typed.trim().toUpperCase() !== ticket.number) throw new Problem('NumberNotTyped')
    const run = await maybeActiveRun(client, ticket.id)
    if (run) await stopRun(client, run.id)
    for (const { kind } of kinds) {
      const scope = { ticketId: ticket.id, kind }
      await closeWaiting(client, scope, 'called-off')
      if (!body.takeAway) continue
      await askUndo(client, scope, null)
      await askAllAway(client, scope)
    }
    // a ticket whose key is lost can end, too; then nothing can keep its words
    const keys = findKeys(services.config, ticket.holding)
    await setCalledOff(client, ticket.id, keys && sealText(keys, 'called-off', body.why))
    await addNote(client, services, { ticket, what: 'called-off', words: keys ? body.why : '', actor })
    if (body.takeAway && kinds.some((kind) => kind.frozen_at)) await startRun(client, { ticket, type: 'take-away', phones, ports, actor })
  })
}
