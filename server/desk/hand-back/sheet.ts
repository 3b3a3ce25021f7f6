import { createHash } from 'node:crypto'
import type { LedgerRow } from '#contracts/http/ledger.ts'
import type { PhoneOnTicket, SheetView } from '#contracts/http/ticket.ts'
import { kindOf } from '#core/kinds/registry.ts'
import type { Actor } from '../../base/did.ts'
import type { Client } from '../../base/db/sql.ts'
import { oneShop } from '../../base/shop.queries.ts'
import type { Services } from '../../base/services.ts'
import { insertSheet, manyVoidSheets, maybeSheet, type VoidRow } from '../../book/sheets.queries.ts'
import { figuresOf } from '../../book/signed.ts'
import { maybeTicket } from '../../case/tickets.queries.ts'
import { open, openText, seal, type TicketKeys } from '../../vault/keys.ts'
import { readInstallList } from '../choose/install-list.ts'
import { readTicket } from '../read-ticket.ts'
import { openCustomer } from '../summary.ts'
import { holdingKeys } from '../../vault/holdings.ts'
import type { TicketId } from '../../base/ids.ts'

/**
 * What the printed sheet says: counts and reasons, never a contact's name. Once it is signed, it is what was signed;
 * after erasing, without a word of the customer's. @throws Problem `TicketNotFound`
 */
export async function readSheet(services: Services, number: string, actor: Actor): Promise<SheetView> {
  const { pool, config } = services
  const row = await maybeTicket(pool, number)
  const signed = row?.signed_at ? await maybeSheet(pool, row.id) : undefined
  const former = row ? (await manyVoidSheets(pool, row.id)).map(shownFormer) : []
  if (!row || !signed) return { ...(await makeSheet(services, number, actor)), former }
  const { ledger } = await readTicket(services, number, actor)
  const isErased = row.holding === null
  const view = isErased
    ? signed.clear
    : (JSON.parse(open(holdingKeys(config, row.holding!).seal, 'sheet', signed.sealed).toString()) as SheetView)
  return {
    // as it was kept: a field that came to the contract later must not make it unreadable
    ...withPlaces(view),
    isErased,
    former,
    signed: {
      at: signed.signed_at.toISOString(),
      by: row.signed_by && !isErased ? openText(holdingKeys(config, row.holding!), 'signed', row.signed_by) : null,
      digest: shownDigest(signed.digest),
      isVoid: !isErased && !figuresOf(ledger).equals(signed.figures),
    },
  }
}

/** Sheets signed before sides named their places say it in another word; they stay as they were kept. */
function withPlaces(view: SheetView): SheetView {
  const side = (phone: PhoneOnTicket & { link?: string }): PhoneOnTicket => ({
    ...phone,
    place: phone.place ?? (phone.link === 'file' ? 'file' : 'bench'),
    copy: phone.copy ?? null,
    archive: phone.archive ?? null,
  })
  return {
    ...view,
    ticket: { ...view.ticket, isLook: view.ticket.isLook ?? false, old: side(view.ticket.old), new: side(view.ticket.new) },
  }
}

/** The sheet as it would be printed now. @throws Problem `TicketNotFound` */
export async function makeSheet(services: Services, number: string, actor: Actor): Promise<SheetView> {
  const ticket = await readTicket(services, number, actor)
  const shop = await oneShop(services.pool)
  const customer = openCustomer(services, (await maybeTicket(services.pool, number))!)
  const install =
    ticket.kinds.some((kind) => kindOf(kind).byHand) && !ticket.erasedAt
      ? await readInstallList(services, number, actor).catch(() => null)
      : null
  return {
    ticket,
    shop: { name: shop.name, address: shop.address, zone: shop.zone, words: shop.sheet_words },
    customer: customer && { name: customer.name, phone: customer.phone },
    install,
    madeAt: new Date().toISOString(),
    isErased: ticket.erasedAt !== null,
    signed: null,
    former: [],
  }
}

const shownDigest = (digest: Buffer) => digest.toString('hex').slice(0, 16)

const shownFormer = (row: VoidRow): SheetView['former'][number] => ({
  at: row.signed_at.toISOString(),
  voidedAt: row.voided_at.toISOString(),
  digest: shownDigest(row.digest),
})

/** Keeps a sheet as it was signed, beside those before it, which are void. @param ledger as it stands once it is signed */
export async function keepSheet(
  client: Client,
  { ticketId, keys, sheet, ledger }: { ticketId: TicketId; keys: TicketKeys; sheet: SheetView; ledger: readonly LedgerRow[] },
): Promise<void> {
  const bytes = Buffer.from(JSON.stringify(sheet))
  await insertSheet(client, ticketId, {
    digest: createHash('sha256').update(bytes).digest(),
    clear: withoutText(sheet),
    sealed: seal(keys.seal, 'sheet', bytes),
    figures: figuresOf(ledger),
  })
}

/** What may stand in clear: figures, reasons, models; no names, numbers, serials or words of anybody's. */
function withoutText(sheet: SheetView): SheetView {
  const { ticket } = sheet
  return {
    ...sheet,
    customer: null,
    install: sheet.install && { ...sheet.install, link: null, qr: null, list: [] },
    ticket: {
      ...ticket,
      customer: null,
      signedBy: null,
      old: { ...ticket.old, serial: null },
      new: { ...ticket.new, serial: null },
      accepted: ticket.accepted.map((accepted) => ({ ...accepted, by: '' })),
      notes: ticket.notes.map((note) => ({ ...note, words: null })),
      lastNote: null,
      calledOff: ticket.calledOff && { ...ticket.calledOff, why: null },
    },
  }
}
