import { createHash, hkdfSync, randomInt } from 'node:crypto'
import QRCode from 'qrcode'
import type { InstallListView, InstallPageView } from '#contracts/http/media.ts'
import { findCounterpart } from '#core/kinds/apps/index.ts'
import type { Actor } from '../../base/did.ts'
import { oneShop } from '../../base/shop.queries.ts'
import { Problem } from '../../base/problem.ts'
import { perShop } from '../../base/per-shop.ts'
import type { Services } from '../../base/services.ts'
import { manyByHand } from '../../book/entries/carry.queries.ts'
import { manyPhones, maybeInstallList, setInstallList } from '../../case/tickets.queries.ts'
import { open, openText, seal, sealText } from '../../vault/keys.ts'
import { onOpenTicket } from '../items/entries.ts'
import { openApps } from './apps.ts'
import { insertPage, maybePage } from './install-pages.queries.ts'

/** The list a ticket's code opens; made once, and again only when an app is on it that was not. */
interface KeptList {
  readonly ids: readonly string[]
  readonly link: string
}

type Listed = InstallPageView['apps'][number] & { readonly id: string }

/**
 * What the customer installs by hand. With a public address, a page of our own behind a code that says nothing; without
 * one, the list itself, on paper and as text in the code. @throws Problem `TicketNotFound`, `TicketErased`
 */
export async function readInstallList(services: Services, number: string, actor: Actor): Promise<InstallListView> {
  const { config, pool } = services
  const { ticketId, keys, count, list, model, kept } = await onOpenTicket(
    services,
    number,
    { kindCode: 'apps', actor },
    async ({ client, ticket, keys }) => {
      const phones = await manyPhones(client, [ticket.id])
      const to = phones.find((phone) => phone.side === 'new')!
      const waiting = new Set((await manyByHand(client, { ticketId: ticket.id, kind: 'apps' })).map(({ seq }) => seq))
      const opened = await openApps(client, { ticket, keys, phones })
      const wanted = opened.filter(({ entry }) => waiting.has(entry.seq) || entry.reasons.includes('to-install-by-hand'))
      const found = wanted.flatMap(({ app }) => findCounterpart(app).app ?? [])
      const apps = new Map(
        found.map(({ id, name, maker, use, priceCents, link }): [string, Listed] => [
          id,
          { id, name, maker, use, priceCents, link: link ?? null },
        ]),
      )
      const list = await maybeInstallList(client, ticket.id)
      return {
        ticketId: ticket.id,
        keys,
        count: found.length,
        list: [...apps.values()].sort((a, b) => a.name.localeCompare(b.name, 'en')),
        model: to.model,
        kept: list && (JSON.parse(openText(keys, 'install list', list)) as KeptList),
      }
    },
  )
  if (list.length === 0) return { apps: count, link: null, qr: null, list: [] }
  if (!config.publicUrl) return { apps: count, link: null, qr: await codeOf(asText(model, list)), list: list.map(withoutId) }
  // what was printed goes on working: a list that lost an app since is the same list
  const isKept = kept?.link.startsWith(`${config.publicUrl}/`) && list.every(({ id }) => kept.ids.includes(id))
  const link = isKept ? kept!.link : await keepPage(services, { model, apps: list.map(withoutId) })
  if (!isKept)
    await setInstallList(
      pool,
      ticketId,
      sealText(keys, 'install list', JSON.stringify({ ids: list.map(({ id }) => id), link } satisfies KeptList)),
    )
  return { apps: count, link, qr: await codeOf(link), list: [] }
}

const withoutId = ({ id: _, ...app }: Listed) => app
const codeOf = (text: string) => QRCode.toString(text, { type: 'svg', margin: 0 })

/** As much as a code on paper can be read from; the list on paper is whole. */
const mostInCode = 1_200
function asText(model: string, list: readonly Listed[]): string {
  const lines = [`To install on the ${model}:`, ...list.map(({ name, maker }) => `${name} (${maker})`)]
  let text = ''
  for (const line of lines) {
    if (Buffer.byteLength(text + line) > mostInCode) return `${text}…`
    text += `${line}\n`
  }
  return text.trimEnd()
}

/** Long enough for a customer who does it later. */
const days = 60
const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'

async function keepPage({ config, pool }: Services, page: { model: string; apps: InstallPageView['apps'] }): Promise<string> {
  const code = Array.from({ length: 12 }, () => letters[randomInt(letters.length)]).join('')
  await insertPage(pool, { codeHash: hashOf(code), sealed: seal(keyOf(code), 'install page', Buffer.from(JSON.stringify(page))), days })
  return `${config.publicUrl}/list/${code}`
}

const hashOf = (code: string) => createHash('sha256').update(`page ${code}`).digest()
const keyOf = (code: string) => Buffer.from(hkdfSync('sha256', code, Buffer.alloc(0), 'install page', 32))

/** How often one address may ask in a minute: enough for a family, too few to try codes. */
const mostAMinute = 20
const askedOf = perShop(() => ({ minute: 0, by: new Map<string, number>() }))

/**
 * The page behind a code, for whoever has it: apps and the shop's name, and nobody else's.
 * @param from the address that asks @throws Problem `NotFound` when there is none or its date is over, `TooManyLists`
 */
export async function readInstallPage(services: Services, code: string, from: string): Promise<InstallPageView> {
  const now = Math.floor(services.clock.now() / 60_000)
  const asked = askedOf(services)
  if (now !== asked.minute) Object.assign(asked, { minute: now, by: new Map() })
  const n = (asked.by.get(from) ?? 0) + 1
  asked.by.set(from, n)
  if (n > mostAMinute) throw new Problem('TooManyLists')
  const row = await maybePage(services.pool, hashOf(code))
  if (!row) throw new Problem('NotFound')
  const page = JSON.parse(open(keyOf(code), 'install page', row.sealed).toString()) as Pick<InstallPageView, 'model' | 'apps'>
  return { ...page, shop: (await oneShop(services.pool)).name, endsAt: row.ends_at.toISOString() }
}
