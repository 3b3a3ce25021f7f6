import { createHash } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { pair } from '#core/book/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { findModel } from '#core/phones/models.ts'
import { numbers } from '#standins/demo/draw.ts'
import { dialects } from '#standins/kinds/contacts/dialects.ts'
import { pairKind } from '#server/book/pairing/pair-kind.ts'
import { transaction } from '#server/base/db/sql.ts'
import { insertEntries } from '#server/book/entries/entries.queries.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { insertReading } from '#server/vault/readings.queries.ts'
import { stowRecord, writeStowed } from '#server/vault/stow.ts'
import { nativeDigest } from '#server/vault/keys.ts'
import { holdingKeys } from '#server/vault/holdings.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { bookTicket } from '../setup/ticket.ts'
import type { HoldingId, TicketId } from '#server/base/ids.ts'

let shop: TestShop
beforeAll(async () => {
  shop = await openShop()
})
afterAll(() => shop.close())

const kind = kindOf('contacts')
const target = findModel({ maker: 'Veyra', model: 'Veyra 12', platform: 'ios' })
const tools = readTools({ region: 'GB', zone: 'Europe/London' }, 0)

interface Rec {
  id: string
  n: number
}

/** A contact by its number: equal numbers are equal contacts, and 100 + n holds all that n says and more. */
function body(n: number): Buffer {
  const person = { given: `Person${n % 100}`, phones: [{ v: `+4477009001${String(n % 100).padStart(2, '0')}`, t: 'cell' }] }
  return dialects.veyra.give(dialects.veyra.store(n >= 100 ? { ...person, emails: [{ v: `p${n}@example.org`, t: 'home' }] } : person))
}

const atomsOf = (n: number) => {
  const read = kind.read(body(n), tools)
  return read.ok ? kind.atoms(read.item, tools) : []
}
const digestOf = (n: number) => createHash('sha256').update(atomsOf(n).join()).digest('hex')

describe('pairing in the database', () => {
  it('ends as the core’s own pairing does, for random readings with losses, doubles, joins, strays and new numbering', async () => {
    let differing = 0
    for (let seed = 1; seed <= 40; seed++) {
      const next = numbers(seed)
      const pick = (max: number) => Math.floor(next() * max)
      const some = (max: number, id: string): Rec[] =>
        Array.from({ length: pick(max) }, (_, i) => ({ id: `${id}${i}`, n: pick(8) + (next() < 0.3 ? 100 : 0) }))
      const first = some(8, 'f')
      const old = some(10, 'o').map((r) => ({ ...r, fate: next() < 0.15 ? 'merged' : 'carried', written: `n${r.id}` }))
      // what was there already has its record in the first count, one for one
      for (const record of first) {
        const equal = next() < 0.5 && old.find((r) => r.fate === 'carried' && r.n === record.n)
        if (equal) equal.fate = 'alreadyThere'
      }
      const carried = old.filter((r) => r.fate === 'carried')
      const last = [...first, ...carried.map((r) => ({ id: r.written, n: r.n }))]
        .filter(() => next() > 0.15)
        .map((r) => (next() < 0.1 ? { ...r, n: (r.n + 100) % 200 } : r))
        .concat(next() < 0.4 ? some(3, 's') : [])
        .map((r) => (next() < 0.1 ? { ...r, id: `re-${r.id}` } : r))

      const world = await transaction(shop.services.pool, async (client) => {
        const number = await bookTicket(
          shop,
          { serial: `A${seed}`, model: 'Veyra 14', port: 1 },
          { serial: `B${seed}`, model: 'Veyra 12', port: 2 },
        )
        const { rows } = await client.query('select id, holding_id from ticket where number = $1', [number])
        const ticketId = rows[0].id as TicketId
        const holding = rows[0].holding_id as HoldingId
        const keys = holdingKeys(shop.services.config, holding)
        const stage = async (side: 'old' | 'new', records: readonly Rec[], purpose: 'first' | 'last') => {
          const reading = await insertReading(client, { holding, place: side, kind: 'contacts', purpose, canonicalVersion: 1 })
          const stowing = { kind, keys, tools, target: side === 'old' ? target : null }
          const items = records.map((r) =>
            stowRecord(stowing, { id: r.id, revision: '1', storage: 'phone', body: body(r.n).toString('base64') }),
          )
          await writeStowed(client, keys, { readingId: reading.id, items: 0, blocks: 0 }, items)
          return reading.id
        }
        const oldReading = await stage('old', old, 'first')
        const scope = {
          ticketId,
          kind: 'contacts',
          firstReading: await stage('new', first, 'first'),
          lastReading: await stage('new', last, 'last'),
          previousReading: null,
        }
        await insertEntries(client, { ticketId, kind: 'contacts', readingId: oldReading, choice: 'all' })
        for (const [seq, r] of old.entries()) {
          await client.query('update entry set fate = $3, last_event = $5, written = $4 where ticket_id = $1 and seq = $2', [
            ticketId,
            seq,
            r.fate,
            r.fate === 'carried' ? nativeDigest(keys, r.written) : null,
            { carried: 'taken', merged: 'joinedByPhone', alreadyThere: 'there' }[r.fate],
          ])
        }
        await pairKind(client, scope, { keys, target, oldTools: tools, newTools: tools })
        const origins = await client.query('select origin, count(*) as n from origin where ticket_id = $1 group by origin', [ticketId])
        const fates = await client.query('select fate, count(*) as n from entry where ticket_id = $1 group by fate', [ticketId])
        return { origins: tally(origins.rows.map((r) => [asOurs(r.origin), r.n])), fates: tally(fates.rows.map((r) => [r.fate, r.n])) }
      })

      const record = (r: Rec, seq: number) => ({ seq, nativeId: r.id, digest: digestOf(r.n), atoms: atomsOf(r.n) })
      const expected = pair({
        first: first.map(record),
        last: last.map(record),
        joins: true,
        items: old.map((r, seq) => ({
          seq,
          fate: r.fate as 'carried' | 'merged' | 'alreadyThere',
          digest: digestOf(r.n),
          atoms: atomsOf(r.n),
          nativeIds: r.fate === 'carried' ? [r.written] : [],
        })),
      })
      const fates = old.map((r, seq) => expected.fates.get(seq) ?? r.fate)
      expect({ seed, ...world }).toEqual({
        seed,
        // second records of ours are ours: the pairing says double, and its rows say left behind
        origins: tally([...expected.origins.values(), ...expected.departures.values()].map((o) => [asOurs(o), 1])),
        fates: tally(fates.map((f) => [f, 1])),
      })
      if (fates.includes('lost')) differing++
    }
    // the random worlds must hold what they are for
    expect(differing).toBeGreaterThan(8)
  })
})

const asOurs = (origin: string) => (origin === 'double' ? 'leftBehind' : origin)

function tally(pairs: readonly (readonly [string, number])[]): Record<string, number> {
  const out: Record<string, number> = {}
  for (const [name, n] of pairs) out[name] = (out[name] ?? 0) + n
  return out
}
