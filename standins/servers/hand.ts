import { createHash, randomInt } from 'node:crypto'
import type { Server } from 'node:http'
import type pg from 'pg'
import { manyFaults } from '../faults.queries.ts'
import { faultPoints, setFaults } from '../faults.ts'
import { fingerActs, preparedSwitches, questionOf } from '../phones/fingers.ts'
import { act, HandRefused, isHandAct, theRecord } from '../phones/hand.ts'
import { announce } from '../phones/live.ts'
import { standinModel, standinModels } from '../phones/models.ts'
import { recordsOf } from '../phones/records.ts'
import { countLooseFiles, manyNamedFiles } from '../phones/files.queries.ts'
import { giveFile } from '../phones/files.ts'
import { modelOf, type PhoneRow } from '../phones/phone.ts'
import { deletePhone, findPhone, insertPhone, manyPhones } from '../phones/phones.queries.ts'
import { countRecords, manyRecords } from '../phones/records.queries.ts'
import type { ContentsRequest, HandTools, PhoneKind } from '../kinds/phone-kind.ts'
import { askedKinds, phoneKind, phoneKinds } from '../kinds/registry.ts'
import { fillRecords, giveRecord } from '../phones/store.ts'
import { HttpFailure, serve, type Call } from './serve.ts'

/** The hand: fingers and cables, and a look into a phone's own store. The product's line never speaks to it. */
export function createHandServer(pool: pg.Pool, token: string): Server {
  const withPhone =
    (answer: (phone: PhoneRow, call: Call) => unknown) =>
    async (call: Call): Promise<unknown> => {
      const phone = await findPhone(pool, call.params.serial!)
      if (!phone) throw new HttpFailure(404, 'NoSuchPhone')
      return answer(phone, call)
    }
  /** Something of what the phone holds is another now. */
  const told = async <Answer>({ serial }: PhoneRow, answer: Promise<Answer>): Promise<Answer> => {
    const done = await answer
    announce({ event: 'changed', serial })
    return done
  }
  return serve(token, {
    '/fault-points': () => ({ points: faultPoints }),
    '/models': () => ({ models: standinModels }),
    '/acts': () => ({
      acts: [
        { name: 'tap-build-number', on: ['android'] },
        ...Object.entries(fingerActs).map(([name, { on }]) => ({ name, on: on ?? null })),
      ],
    }),
    '/phones': async (call) => (call.method === 'GET' ? { phones: await allPhones(pool) } : addPhone(pool, await call.body())),
    '/phones/:serial': withPhone(async (phone, { method }) => {
      if (method === 'GET') return describe(pool, phone)
      if (method !== 'DELETE') throw new HttpFailure(404, 'NotFound')
      await deletePhone(pool, phone.serial)
      announce({ event: 'pulled', serial: phone.serial })
      return { deleted: phone.serial }
    }),
    '/phones/:serial/loose': withPhone(async ({ serial }) => ({ count: (await countLooseFiles(pool, serial)).count })),
    '/phones/:serial/store': withPhone((phone, { query }) => readStore(pool, phone, query.kind ?? phoneKinds[0]!.code)),
    '/phones/:serial/fill': withPhone((phone, call) => told(phone, fill(pool, phone, call))),
    '/phones/:serial/add': withPhone((phone, call) => told(phone, add(pool, phone, call))),
    '/phones/:serial/faults': withPhone(async (phone, call) => wishFaults(pool, phone, call.method, await call.body())),
    '/phones/:serial/roll': withPhone(async ({ serial }, call) => {
      // the seed is told, so that what it drew can be drawn again
      const { seed = randomInt(1, 1_000_000) } = await call.body<{ seed?: number }>()
      return { ...(await describe(pool, (await act(pool, serial, 'roll', { seed }))!)), seed }
    }),
    '/phones/:serial/:verb': withPhone(async (phone, call) => {
      const verb = call.params.verb!
      const own = phoneKinds.find(({ acts }) => acts?.[verb])
      if (own) return told(phone, actOfKind(pool, phone, own, call))
      if (!isHandAct(verb)) throw new HttpFailure(404, 'NotFound')
      return describe(pool, (await act(pool, phone.serial, verb, await call.body<object>()).catch(refused))!)
    }),
  })
}

/** Contents drawn from a seed. */
async function fill(pool: pg.Pool, phone: PhoneRow, call: Call) {
  const { kind: code, ...request } = await call.body<ContentsRequest & { kind?: string }>()
  const kind = code === undefined ? phoneKinds[0]! : phoneKind(code)
  if (!kind) throw new HttpFailure(400, 'no-such-kind')
  return { added: await fillRecords(pool, phone, kind.code, kind.contents(modelOf(phone), request)) }
}

/** Records a test wrote out. */
async function add(pool: pg.Pool, phone: PhoneRow, call: Call) {
  const body = await call.body<Record<string, unknown>>()
  let added = 0
  for (const kind of phoneKinds) {
    const given = kind.given?.(modelOf(phone), body) ?? []
    if (given.length > 0) added += await fillRecords(pool, phone, kind.code, given)
  }
  return { added }
}

/** What a hand does with one kind alone. */
async function actOfKind(pool: pg.Pool, phone: PhoneRow, kind: PhoneKind, call: Call) {
  const tools: HandTools = {
    pool,
    fill: (records) => fillRecords(pool, phone, kind.code, records),
    record: (id) => theRecord(pool, phone.serial, id),
    refuse: (code) => {
      throw new HandRefused(code)
    },
  }
  return { done: await kind.acts![call.params.verb!]!(phone, await call.body<Record<string, unknown>>(), tools).catch(refused) }
}

/** What a hand can't do now, as an answer. */
function refused(error: unknown): never {
  throw error instanceof HandRefused ? new HttpFailure(409, error.message) : error
}

async function allPhones(pool: pg.Pool) {
  return Promise.all((await manyPhones(pool)).map((phone) => describe(pool, phone)))
}

async function describe(pool: pg.Pool, phone: PhoneRow) {
  const { records, persons } = await countRecords(pool, phone.serial, phoneKinds.find(({ isOnScreen }) => isOnScreen)!.code)
  const { maker, platform, derived } = modelOf(phone)
  return {
    serial: phone.serial,
    maker,
    model: phone.model,
    platform,
    version: phone.version,
    port: phone.port,
    isLocked: phone.is_locked,
    trust: phone.trust,
    allows: phone.allows,
    setup: phone.setup,
    isOn: phone.is_on,
    cable: phone.cable,
    isAsleep: phone.is_asleep,
    fallsBack: phone.falls_back,
    switches: phone.switches,
    question: questionOf(phone, platform)?.question ?? null,
    markedText: phone.marked_text,
    isLive: phone.is_live,
    hasWorkArea: phone.has_work_area,
    syncLeft: phone.sync_left,
    battery: phone.battery,
    isCharging: phone.is_charging,
    freeBytes: phone.free_bytes,
    totalBytes: phone.total_bytes,
    temperature: phone.temperature,
    settleMs: phone.settle_ms,
    dropsWhenFull: phone.drops_when_full,
    joinsEqual: phone.joins_equal,
    isMarked: (phone.marked_until?.getTime() ?? 0) > Date.now(),
    contacts: records,
    persons,
    derived,
    faults: await manyFaults(pool, phone.serial),
  }
}

/** Everything the phone holds, from its own memory: what a test compares the product's ledger with. */
async function readStore(pool: pg.Pool, phone: PhoneRow, kind: string) {
  const rows = await manyRecords(pool, phone.serial, kind)
  const digests = phoneKind(kind)?.hasFiles ? await digestsOfFiles(pool, phone.serial, kind) : new Map<number, string[]>()
  const records = rows.map((record) => ({ record, facts: recordsOf(phone, kind)!.facts(record.data) }))
  return {
    // its own list shows each call, though a record may hold several
    count: phoneKind(kind)?.isOfSeveral ? records.reduce((sum, { facts }) => sum + facts.length, 0) : rows.length,
    records: records.map(({ record, facts }) => ({
      id: String(record.id),
      storage: record.storage,
      linkedTo: record.linked_to,
      damage: record.damage,
      facts,
      card: giveRecord(phone, kind, record).body.toString('latin1'),
      files: digests.get(record.id) ?? [],
    })),
  }
}

/** Digests of every file a phone's records hold, from its own memory. */
async function digestsOfFiles(pool: pg.Pool, serial: string, kind: string): Promise<Map<number, string[]>> {
  const out = new Map<number, string[]>()
  for (const { record_id: id, handle } of await manyNamedFiles(pool, serial, kind)) {
    const hash = createHash('sha256')
    for await (const piece of (await giveFile(pool, { serial, kind, handle }))!.pieces) hash.update(piece)
    out.set(id, [...(out.get(id) ?? []), hash.digest('base64url')])
  }
  return out
}

/** A phone of a model: prepared by its owner, or as it comes in its box. */
async function addPhone(pool: pg.Pool, wish: Partial<PhoneRow> & { state?: 'prepared' | 'in-box' }) {
  const model = standinModel(wish.model ?? '')
  if (!model || !wish.serial || !/^[A-Za-z0-9-]{1,64}$/.test(wish.serial)) throw new HttpFailure(400, 'model-and-serial-needed')
  const isBoxed = wish.state === 'in-box'
  await insertPhone(pool, {
    serial: wish.serial,
    model: model.model,
    version: wish.version ?? '18',
    region: wish.region ?? 'GB',
    joins_equal: wish.joins_equal ?? model.joinsEqual,
    settle_ms: wish.settle_ms ?? model.settleMs,
    falls_back: wish.falls_back ?? (isBoxed && model.fallsBack === true),
    setup: isBoxed ? 'in-box' : 'set-up',
    is_on: !isBoxed,
    switches: isBoxed ? {} : preparedSwitches(model.platform),
    allows: isBoxed ? [] : [...askedKinds],
  })
  return describe(pool, (await findPhone(pool, wish.serial))!)
}

interface FaultWish {
  faults?: { point: string; effect: string; skip?: number; times?: number }[]
}

async function wishFaults(pool: pg.Pool, phone: PhoneRow, method: string, { faults = [] }: FaultWish) {
  for (const { point, effect } of faults) {
    const known = faultPoints.find((p) => p.point === point)
    if (!known || !(known.effects as readonly string[]).includes(effect)) throw new HttpFailure(400, 'no-such-fault')
  }
  const wished = faults.map(({ point, effect, skip = 0, times = 1 }) => ({ point, effect, skip, times }))
  await setFaults(pool, phone.serial, wished, { inStead: method === 'DELETE' })
  return describe(pool, phone)
}
