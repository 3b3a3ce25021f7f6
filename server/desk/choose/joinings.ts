import type { z } from 'zod'
import type { joiningPage, joiningSides } from '#contracts/http/ledger.ts'
import type { decideBody, joiningsBody } from '#contracts/http/ticket.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import type { Actor } from '../../base/did.ts'
import { Problem } from '../../base/problem.ts'
import { oneCarryTotals } from '../../book/entries/carry.queries.ts'
import { carryUndone } from '../../book/entries/entries.queries.ts'
import { openContents } from '../../vault/contents.ts'
import { readTools } from '../../vault/read-tools.ts'
import { kindRow, mayDo } from '../guard.ts'
import { readBench } from '../../endpoints/ports.ts'
import { startRun } from '../../runs/start-run.ts'
import type { Services } from '../../base/services.ts'
import { onOpenTicket, titlesOf } from '../items/entries.ts'
import { onTicket } from '../../case/on-ticket.ts'
import { manyPhones } from '../../case/tickets.queries.ts'
import { joinRecords } from '../../line/steps/join-records.ts'
import {
  askUndo,
  countJoinings,
  countsOf,
  decideByRule,
  decideSome,
  manyJoinings,
  maybeJoining,
} from '../../book/joining/joining.queries.ts'

const seqOf = (key: string) => Number(key.replace('old-', ''))

/** People on both phones, a page at a time; names only while showing is allowed. @throws Problem */
export function readJoinings(
  services: Services,
  number: string,
  { wish, actor }: { wish: z.infer<typeof joiningsBody>; actor: Actor },
): Promise<z.infer<typeof joiningPage>> {
  return onOpenTicket(services, number, { kindCode: wish.kind, actor }, async ({ client, kind, keys, isShowing }) => {
    const scope = { ticketId: kind.ticket_id, kind: kind.kind }
    const rows = await manyJoinings(client, { ...scope, after: wish.after === null ? -1 : Number(wish.after), limit: wish.limit + 1 })
    const page = rows.slice(0, wish.limit)
    const titles = isShowing ? await titlesOf(client, keys, page) : undefined
    return {
      counts: countsOf((await countJoinings(client, scope.ticketId)).filter((group) => group.kind === scope.kind)),
      isShowing,
      next: rows.length > wish.limit ? String(page.at(-1)!.entry_seq) : null,
      rows: page.map(({ entry_seq: seq, position, shared, conflicts, decision, state, fate }, i) => ({
        key: `old-${seq}`,
        position,
        shared,
        conflicts,
        decision,
        state,
        fate,
        title: titles?.[i] ?? null,
      })),
    }
  })
}

/** Both sides of one, field by field, and the record they would make. @throws Problem `ShowingNotAllowed`, `NotFound` */
export function readJoining(
  services: Services,
  number: string,
  { kind: code, key, actor }: { kind: string; key: string; actor: Actor },
): Promise<z.infer<typeof joiningSides>> {
  return onOpenTicket(services, number, { kindCode: code, actor }, async ({ client, ticket, kind: row, keys, isShowing }) => {
    if (!isShowing) throw new Problem('ShowingNotAllowed')
    const joining = await maybeJoining(client, { ticketId: row.ticket_id, kind: code, seq: seqOf(key) })
    if (!joining) throw new Problem('NotFound')
    const kind = kindOf(code)
    const phones = await manyPhones(client, [row.ticket_id])
    const [old, now] = (['old', 'new'] as const).map((side) => phones.find((phone) => phone.side === side)!)
    const nowMs = ticket.created_at.getTime()
    const [mine] = await openContents(client, keys, [joining])
    const [its] = await openContents(client, keys, [
      { reading_id: joining.theirs_reading, block: joining.theirs_block, slot: joining.theirs_slot },
    ])
    const target = findModel(now!)
    const both = joinRecords(
      kind,
      { ours: mine!, theirs: its! },
      { target, oldTools: readTools(old!, nowMs), newTools: readTools(now!, nowMs) },
    )
    if (!both) throw new Problem('NotFound')
    const { form, joined } = both
    const linesOf = (item: unknown) => {
      const { title, lines } = kind.describe(item)
      return [{ field: 'name', text: title }, ...lines]
    }
    return { ours: linesOf(form), theirs: linesOf(both.its), joined: 'item' in joined ? linesOf(joined.item) : null }
  })
}

/** Decides what becomes of people on both phones. @throws Problem `KindUnknown`, `PhoneBusy`, `StageNotReached` */
export function decide(
  services: Services,
  number: string,
  { kind, body }: { kind: string; body: z.infer<typeof decideBody> },
): Promise<void> {
  return onTicket(services, number, async (client, ticket, { kinds }) => {
    const row = kindRow(kinds, kind)
    await mayDo(client, 'decide', { ticket, kinds: [row] })
    const scope = { ticketId: ticket.id, kind }
    if ('rule' in body) return decideByRule(client, scope, body.rule)
    const seqs = body.keys.map(seqOf)
    if (body.decision === 'carry') await carryUndone(client, scope, seqs)
    else await decideSome(client, scope, { seqs, decision: body.decision })
    return undefined
  })
}

/** Has joined records put back as they were, and looks afterwards whether they are. @throws Problem `CarryFirst`, `PhoneBusy`, `NotFound` */
export async function undoJoinings(
  services: Services,
  number: string,
  { kind, keys, actor }: { kind: string; keys: readonly string[] | undefined; actor: Actor },
): Promise<number> {
  const { ports } = await readBench(services)
  return onTicket(services, number, async (client, ticket, { kinds, phones }) => {
    await mayDo(client, 'undo', { ticket, kinds: [kindRow(kinds, kind)] })
    // the run that undoes is the one that carries: nothing else may go over with it
    for (const row of kinds)
      if ((await oneCarryTotals(client, { ticketId: ticket.id, kind: row.kind })).waiting > 0) throw new Problem('CarryFirst')
    if ((await askUndo(client, { ticketId: ticket.id, kind }, keys?.map(seqOf) ?? null)) === 0) throw new Problem('NotFound')
    return startRun(client, { ticket, type: 'carry', phones, ports, actor })
  })
}
