import type { Figure, LedgerRow } from '#contracts/http/ledger.ts'
import type { BookIn, TicketView } from '#contracts/http/ticket.ts'
import { faces } from '#core/kinds/faces.ts'
import { closes, linesOfSums, verdictOf, type LedgerFigures } from '#core/book/index.ts'
import { createExecutor, type Executor } from '#server/line/executor.ts'
import type { RunRow } from '#server/runs/runs.queries.ts'
import { setNeed } from '#server/ready/act-ready.ts'
import { bookIn } from '#server/desk/book-in/act.ts'
import { startCarry } from '#server/desk/carry/act.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { againstStores, storesOf } from './contents.ts'
import { unopened } from './opens.ts'
import type { TestShop } from './shop.ts'

export type PhoneWish = {
  serial: string
  model: string
  port: number
  version?: string
  people?: { seed: number; count: number; style?: 'traps' | 'plain' }
  calls?: { seed: number; count: number; style?: 'traps' | 'plain' }
  settle_ms?: number
  joins_equal?: boolean
}

/** As a ticket names it; by its model alone while it is in no port. */
export type NamedPhone = Omit<PhoneWish, 'serial'> & { serial: string | null }

/** Whether items of a kind bring files: a few of them are as much as many of the others. */
export const hasFiles = (kind: string): boolean => faces.find(({ code }) => code === kind)?.isMedia === true

/** Pulls every practice phone. */
export async function clearBench(shop: TestShop): Promise<void> {
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
}

/** A practice phone, filled, plugged in and trusted. */
export async function addPhone(shop: TestShop, { serial, model, port, people, calls, ...wish }: PhoneWish): Promise<void> {
  await shop.hand('phones', { serial, model, version: '13', settle_ms: 40, ...wish })
  if (people) await shop.hand(`phones/${serial}/fill`, people)
  if (calls) await shop.hand(`phones/${serial}/fill`, { kind: 'calls', ...calls })
  await shop.hand(`phones/${serial}/plug`, { port })
  await shop.hand(`phones/${serial}/trust`, {})
}

/** What fingers do before messages may be read and written: switches of the phones, and what only a person can see. */
export async function prepareMessages(shop: TestShop, number: string, { old, now }: { old: NamedPhone; now: NamedPhone }): Promise<void> {
  const acts =
    platformOf(now.model) === 'android' ? ['message-app-helper'] : platformOf(now.model) === 'ios' ? ['anti-theft-off', 'passcode-off'] : []
  for (const act of acts) await shop.hand(`phones/${now.serial}/${act}`, {})
  if (platformOf(old.model) === 'ios') await shop.hand(`phones/${old.serial}/encrypted-reading-on`, {})
  for (const [side, phone] of [
    ['old', old],
    ['new', now],
  ] as const) {
    if (platformOf(phone.model) !== 'ios') continue
    for (const code of side === 'old' ? ['second-step', 'chat-off'] : ['second-step'])
      await setNeed(shop.services, number, { body: { side, code, how: 'ticked', reason: null }, actor: shop.actor })
  }
}

const platformOf = (model: string) => (model.startsWith('Veyra') ? 'ios' : model.startsWith('Holt') ? 'keypad' : 'android')

export async function bookTicket(
  shop: TestShop,
  old: NamedPhone | { upload: string } | { copy: number; passphrase?: string },
  now: NamedPhone | { keepUntil: string } | { home: { password?: string } },
  kinds: string[] = ['contacts'],
): Promise<string> {
  const phone = (wish: NamedPhone): BookIn['old'] => ({
    place: 'bench',
    maker: wish.model.split(' ')[0]!,
    model: wish.model,
    platform: platformOf(wish.model),
    version: wish.version ?? '13',
    serial: wish.serial,
  })
  const file = (upload: string): BookIn['old'] => ({
    place: 'file',
    maker: 'File',
    model: 'Contacts file',
    platform: 'file',
    version: '',
    serial: null,
    upload,
  })
  const locker = (of: { copy: number; passphrase?: string } | { keepUntil: string }): BookIn['old'] => ({
    place: 'locker',
    maker: 'Locker',
    model: 'locker',
    platform: 'locker',
    version: '',
    serial: null,
    ...of,
  })
  const folder = (of: { password?: string }): BookIn['new'] => ({
    place: 'folder',
    maker: 'Files',
    model: 'files',
    platform: 'folder',
    version: '',
    serial: null,
    ...of,
  })
  return bookIn(
    shop.services,
    {
      customer: { name: 'Ines Harrow', phone: '07700 900001', note: '' },
      old: 'upload' in old ? file(old.upload) : 'copy' in old ? locker(old) : phone(old),
      new: 'home' in now ? folder(now.home) : 'keepUntil' in now ? locker(now) : phone(now),
      kinds,
      intake: {},
      promisedAt: '2026-11-24T16:30:00Z',
      waitsInShop: true,
    },
    shop.actor,
  )
}

export function worker(shop: TestShop, checkpoint?: (name: string, run: RunRow) => void | Promise<void>): Executor & { stop(): void } {
  const executor = createExecutor(shop.services, checkpoint)
  const timer = setInterval(() => executor.sweep().catch(() => undefined), 120)
  return {
    ...executor,
    kill() {
      clearInterval(timer)
      executor.kill()
    },
    stop() {
      clearInterval(timer)
    },
  }
}

export async function waitFor(
  shop: TestShop,
  number: string,
  until: (ticket: TicketView) => boolean,
  what = 'the ticket',
  ms = 400_000,
): Promise<TicketView> {
  const began = Date.now()
  let told: number | undefined
  for (let looks = 0; ; looks++) {
    const waitedMs = Date.now() - began
    // each look is work for the product: what takes long is looked at less often, seldom while only progress is told
    if (looks > 0) await new Promise((resolve) => setTimeout(resolve, Math.min(150 + waitedMs / 8, 1000)))
    const news = await toldOf(shop, number)
    if (news === told && looks % 4 !== 0) continue
    told = news
    const ticket = await readTicket(shop.services, number, shop.actor)
    if (until(ticket)) return ticket
    // a mistake of our own does not go by waiting
    if (ticket.run?.reason === 'Internal')
      throw new Error(`${what} never comes: the run failed at ${ticket.run.step} of ${ticket.run.kind}`)
    if (waitedMs > ms)
      throw new Error(
        `${what} never came: ${JSON.stringify({ run: ticket.run, last: ticket.lastRun, stage: ticket.stage, ledger: ticket.ledger })}`,
      )
  }
}

/** The last of what pages were told of a ticket but for its progress. */
async function toldOf({ services }: TestShop, number: string): Promise<number | undefined> {
  const { rows } = await services.pool.query<{ seq: number }>(
    `select seq from ticket_event where ticket_number = $1 and what <> 'progress' order by seq desc limit 1`,
    [number],
  )
  return rows[0]?.seq
}

export async function countIn(shop: TestShop, number: string): Promise<TicketView> {
  await startCountIn(shop.services, number, shop.actor)
  return waitFor(shop, number, (t) => t.run === null && t.forecasts.length > 0, 'count in')
}

export async function carry(shop: TestShop, number: string): Promise<void> {
  const { forecasts } = await readTicket(shop.services, number, shop.actor)
  await startCarry(shop.services, number, {
    body: { stamps: Object.fromEntries(forecasts.map((f) => [f.kind, f.stamp])), confirmRoles: true },
    actor: shop.actor,
  })
}

export function isChecked(ticket: TicketView): boolean {
  return ticket.run === null && ticket.lastRun?.type === 'check-off' && ticket.lastRun.state === 'done'
}

/** A second figure of a kind; undefined where there is none. */
export function figureOf({ also }: LedgerRow, code: Figure['code'], side: Figure['side'], of: string = code): number | undefined {
  return also.find((figure) => figure.code === code && figure.side === side && figure.of === of)?.n
}

/** What the verdict of a row that was checked stands on. */
export function figuresOf(row: LedgerRow): LedgerFigures {
  const { old, fates, new: now, changedWithLoss } = row
  const checked = { isRunning: false, isChecked: true, isRecounted: true, acceptedBy: null }
  return { old, fates, new: now, changedWithLoss, twins: now.twins, ...checked }
}

/**
 * Every invariant at once: sums close, no wrong verdict, and the new phone's own store is what the ledger says.
 * Answers with what stands against it, a sentence each.
 */
export async function againstLedger(
  shop: TestShop,
  ticket: TicketView,
  serials: { old?: string; new: string },
  verdicts: readonly string[] = ['agrees', 'agrees-with-notes'],
): Promise<string[]> {
  const against: string[] = []
  const say = (kind: string, is: boolean, what: () => string) => void (is || against.push(`${kind}: ${what()}`))
  for (const row of ticket.ledger) {
    const { kind } = row
    const stores = await storesOf(shop, kind, serials)
    const figures = figuresOf(row)
    const sums = linesOfSums(figures)
    say(kind, closes(sums), () => `sums do not close: ${JSON.stringify(sums.filter(({ left, right }) => left !== right))}`)
    say(kind, verdicts.includes(row.verdict), () => `${row.verdict}: ${JSON.stringify({ fates: row.fates, new: row.new })}`)
    say(kind, row.verdict === verdictOf(figures), () => `${row.verdict} where its figures say ${verdictOf(figures)}`)
    for (const closed of await unopened(shop, ticket.number, row)) say(kind, false, () => closed)
    const last = row.new.last! + row.new.parts
    say(kind, stores.now.count === last, () => `the new phone holds ${stores.now.count}, its last count is ${last}`)
    for (const one of await againstStores(shop, row, serials, stores)) say(kind, false, () => one)
    if (!stores.old) continue
    const { count } = stores.old
    say(
      kind,
      count === row.old.read + row.old.late,
      () => `the old phone holds ${count}, ${row.old.read} and ${row.old.late} late were read`,
    )
  }
  return against
}
