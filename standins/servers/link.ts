import { randomBytes, randomUUID } from 'node:crypto'
import { once } from 'node:events'
import type { Server, ServerResponse } from 'node:http'
import type pg from 'pg'
import {
  amendRequest,
  markRequest,
  phoneCount,
  phoneFacts,
  prepareRequest,
  previewAnswer,
  removeRequest,
  writeRequest,
  type PortView,
} from '#contracts/link/index.ts'
import { catalogueRoutes } from '../catalogue/answer.ts'
import { faultAt, type FaultPoint } from '../faults.ts'
import { canAsk, isVisible, questionOf, reportOf } from '../phones/fingers.ts'
import { act } from '../phones/hand.ts'
import { announce, inTurn, isConnected, setConnection, watch } from '../phones/live.ts'
import { frameOf } from '../files/files.ts'
import { countLooseFiles, deleteFilesOf, dropLooseFiles, maybeFile } from '../phones/files.queries.ts'
import { giveFile, NoRoom, takeFile } from '../phones/files.ts'
import { bumpKind, changePhone, findPhone, giveRoomBack, manyPluggedPhones } from '../phones/phones.queries.ts'
import { amendRecord, deleteRecords, maybeRecord } from '../phones/records.queries.ts'
import { askedAs } from '../kinds/registry.ts'
import { recordsOf } from '../phones/records.ts'
import { modelOf, type PhoneRow } from '../phones/phone.ts'
import { eachRecord, giveRecord, LinkBroken, nameIn, ownCount, takeRecords } from '../phones/store.ts'
import { HttpFailure, serve, type Call } from './serve.ts'

/** The link: what the product sees of the phones. Everything else is the hand's. */
export function createLinkServer(pool: pg.Pool, token: string): Server {
  /** What is asked of a phone in its port; where its connection breaks, it breaks here. */
  const onPhone =
    (answer: (phone: PhoneRow, call: Call) => unknown) =>
    async (call: Call): Promise<unknown> => {
      const phone = await findPhone(pool, call.params.serial!)
      if (!phone || !isVisible(phone, modelOf(phone).platform)) throw new HttpFailure(409, 'NotPlugged')
      try {
        return await answer(phone, call)
      } catch (error) {
        if (error instanceof LinkBroken) return breakLink(pool, phone, error.effect, call)
        throw error
      }
    }
  const whileConnected = (answer: (phone: PhoneRow, call: Call) => unknown) =>
    onPhone((phone, call) => {
      if (!isConnected(phone.serial, call.headers['x-link-connection'] as string | undefined)) throw new HttpFailure(409, 'ConnectionTaken')
      return answer(phone, call)
    })
  const ofKind = (answer: (phone: PhoneRow, kind: string, call: Call) => unknown) =>
    whileConnected(async (phone, call) => {
      const kind = call.params.kind!
      if (!recordsOf(phone, kind)) throw new HttpFailure(404, 'NotFound')
      mustBeReachable(phone, kind)
      return answer(phone, kind, call)
    })
  return serve(token, {
    '/ports': async () => ({ ports: await portViews(pool) }),
    '/watch': watchPhones,
    ...catalogueRoutes,
    '/phones/:serial/attach': onPhone((phone) => attach(pool, phone)),
    '/phones/:serial/prepare': onPhone(async (phone, call) => prepare(pool, phone, prepareRequest.parse(await call.body()))),
    '/phones/:serial/mark': onPhone(async (phone, call) => mark(pool, phone, markRequest.parse(await call.body()))),
    '/phones/:serial/facts': whileConnected(async (phone) => {
      await pass(pool, phone, 'facts')
      return phoneFacts.parse(factsOf(phone))
    }),
    '/phones/:serial/readiness': whileConnected((phone) => ({ facts: reportOf(phone, modelOf(phone).platform) })),
    '/phones/:serial/kinds/:kind/count': ofKind(async (phone, kind) => phoneCount.parse(await countOf(pool, phone, kind))),
    '/phones/:serial/kinds/:kind/list': ofKind((phone, kind, call) => list(pool, phone, kind, call)),
    '/phones/:serial/kinds/:kind/open': ofKind(async (phone, kind, call) => {
      await pass(pool, phone, 'open')
      return open(pool, phone, kind, call.query.id ?? '')
    }),
    '/phones/:serial/kinds/:kind/write': ofKind(async (phone, kind, call) => {
      const { records } = writeRequest.parse(await call.body())
      const bodies = records.map((body) => Buffer.from(body, 'base64'))
      return { results: await inTurn(phone.serial, () => takeRecords(pool, phone, kind, bodies)) }
    }),
    '/phones/:serial/kinds/:kind/file': ofKind((phone, kind, call) =>
      call.method === 'GET' ? sendFile(pool, phone, kind, call) : receiveFile(pool, phone, kind, call),
    ),
    '/phones/:serial/kinds/:kind/preview': ofKind(async (phone, kind, call) =>
      previewAnswer.parse({ picture: await previewOf(pool, phone, kind, call.query.handle ?? '') }),
    ),
    '/phones/:serial/kinds/:kind/amend': ofKind((phone, kind, call) =>
      inTurn(phone.serial, async () => amend(pool, phone, kind, amendRequest.parse(await call.body()))),
    ),
    '/phones/:serial/kinds/:kind/remove': ofKind(async (phone, kind, call) => {
      await pass(pool, phone, 'remove')
      return inTurn(phone.serial, async () => remove(pool, phone, kind, removeRequest.parse(await call.body())))
    }),
  })
}

let restless = 0
/** Its own count; a restless phone's is another at every look. */
async function countOf(pool: pg.Pool, phone: PhoneRow, kind: string) {
  const effect = await faultAt(pool, phone.serial, 'count')
  if (effect && !['one-more', 'restless'].includes(effect)) throw new LinkBroken(effect)
  const count = await ownCount(pool, phone, kind)
  if (effect === 'one-more') return { ...count, items: count.items + 1 }
  if (effect === 'restless') return { ...count, items: count.items + 1 + (++restless % 7), revision: `${count.revision}.${restless}` }
  return count
}

/** A fault that concerns the whole operation happens here. */
async function pass(pool: pg.Pool, phone: PhoneRow, point: FaultPoint): Promise<void> {
  const effect = await faultAt(pool, phone.serial, point)
  if (effect) throw new LinkBroken(effect)
}

async function breakLink(pool: pg.Pool, phone: PhoneRow, effect: string, call: Call): Promise<undefined> {
  if (effect === 'stall') {
    await once(call.response, 'close')
    return undefined
  }
  if (effect === 'unknown-code') throw new HttpFailure(409, 'SomethingNew')
  if (effect === 'fail') throw new HttpFailure(409, 'PermissionMissing')
  if (effect === 'lock') {
    await act(pool, phone.serial, 'lock', {})
    throw new HttpFailure(409, 'PhoneLocked')
  }
  if (effect === 'pull') await act(pool, phone.serial, 'pull', {})
  call.response.destroy()
  return undefined
}

async function attach(pool: pg.Pool, phone: PhoneRow) {
  await pass(pool, phone, 'attach')
  return inTurn(phone.serial, async () => {
    const connection = randomUUID()
    await dropLooseFiles(pool, phone.serial)
    setConnection(phone.serial, connection)
    return { connection }
  })
}

/** Whether it is still there and lets itself be asked of a kind. */
async function mustStillBeReachable(pool: pg.Pool, serial: string, kind: string): Promise<void> {
  const phone = await findPhone(pool, serial)
  if (!phone) throw new LinkBroken('cut')
  mustBeReachable(phone, kind)
}

/** @throws LinkBroken, HttpFailure with why not */
function mustBeReachable(phone: PhoneRow, kind: string): void {
  const { platform } = modelOf(phone)
  if (!isVisible(phone, platform)) throw new LinkBroken('cut')
  if (phone.is_locked || phone.setup !== 'set-up') throw new HttpFailure(409, 'PhoneLocked')
  if (platform === 'android' && !phone.switches.debugging) throw new HttpFailure(409, 'DebuggingOff')
  if (phone.trust === 'refused') throw new HttpFailure(409, 'TrustRefused')
  if (phone.trust !== 'trusted') throw new HttpFailure(409, 'TrustNeeded')
  if (platform === 'android' && !phone.switches.helper) throw new HttpFailure(409, 'HelperMissing')
  const asked = askedAs(kind)
  if (platform !== 'keypad' && asked && !phone.allows.includes(asked)) throw new HttpFailure(409, 'PermissionMissing')
  if (phone.temperature >= 45) throw new HttpFailure(409, 'TooHot')
}

/** A slow cable, and a phone of 40 °C or more, take their time. */
async function drag({ cable, temperature }: PhoneRow): Promise<void> {
  const ms = (cable === 'slow' ? 250 : 0) + (temperature >= 40 ? 250 : 0)
  if (ms > 0) await new Promise((resolve) => setTimeout(resolve, ms))
}

/** The computer asks for what it needs: its helper, permissions, the message app role. The phone asks its owner, one thing after the other. */
async function prepare(pool: pg.Pool, phone: PhoneRow, wants: { kinds: string[]; writes: boolean }) {
  if (phone.trust !== 'trusted') throw new HttpFailure(409, 'TrustNeeded')
  await changePhone(pool, phone.serial, { wants, wants_since: new Date() })
  announce({ event: 'asked', serial: phone.serial })
  return { asked: true }
}

/** Shows a mark on its screen for a while, so that two of the same model can be told apart. */
async function mark(pool: pg.Pool, phone: PhoneRow, { text }: { text: string }) {
  await act(pool, phone.serial, 'mark', { text })
  return { marked: true }
}

async function list(pool: pg.Pool, phone: PhoneRow, kind: string, call: Call): Promise<undefined> {
  await pass(pool, phone, 'list.start')
  const { revision } = await ownCount(pool, phone, kind)
  const { response } = call
  const dialect = recordsOf(phone, kind)!
  response.writeHead(200, { 'content-type': 'application/x-ndjson' })
  let count = 0
  const end = await faultAt(pool, phone.serial, 'list.end')
  let leaveOut = end === 'leave-out-one'
  try {
    for await (const page of eachRecord(pool, phone.serial, kind)) {
      await mustStillBeReachable(pool, phone.serial, kind)
      await drag(phone)
      const mid = await faultAt(pool, phone.serial, 'list.mid')
      let text = ''
      for (const [i, record] of page.entries()) {
        if (mid && i >= page.length / 2) break
        if (leaveOut) {
          leaveOut = false
          continue
        }
        const { body, unreadable, files } = giveRecord(phone, kind, record)
        const rec = {
          id: String(record.id),
          revision: String(record.revision),
          storage: record.storage,
          body: body.toString('base64'),
          ...(files ? { files } : {}),
        }
        text += JSON.stringify({ rec: unreadable ? { ...rec, unreadable } : rec }) + '\n'
        count++
        for (const beside of unreadable ? [] : (dialect.apart?.(record.data) ?? [])) {
          text +=
            JSON.stringify({
              rec: {
                id: `${record.id}.${beside.name}`,
                revision: String(record.revision),
                storage: record.storage,
                body: dialect.give(beside.stored).toString('base64'),
                belongsTo: String(record.id),
              },
            }) + '\n'
          count++
        }
      }
      if (!response.write(text)) await untilDrained(response)
      if (response.destroyed) return undefined
      if (mid === 'not-json') response.write('{"rec": oops\n')
      else if (mid) throw new LinkBroken(mid)
    }
  } catch (error) {
    if (error instanceof HttpFailure) {
      response.end(JSON.stringify({ fail: { code: error.code } }) + '\n')
      return undefined
    }
    if (error instanceof LinkBroken && error.effect === 'lock') {
      await act(pool, phone.serial, 'lock', {})
      response.end(JSON.stringify({ fail: { code: 'PhoneLocked' } }) + '\n')
      return undefined
    }
    if (error instanceof LinkBroken && error.effect === 'fail') {
      response.end(JSON.stringify({ fail: { code: 'PermissionMissing' } }) + '\n')
      return undefined
    }
    throw error
  }
  if (end === 'no-end') response.end()
  else if (end === 'cut') response.destroy()
  else response.end(JSON.stringify({ end: { count, revision } }) + '\n')
  return undefined
}

/** Waits until what was written is taken, or nobody is there to take it; leaves no listener behind. */
async function untilDrained(response: ServerResponse): Promise<void> {
  const done = new AbortController()
  const { signal } = done
  await Promise.race([once(response, 'drain', { signal }), once(response, 'close', { signal })])
  done.abort()
}

async function open(pool: pg.Pool, phone: PhoneRow, kind: string, id: string) {
  const record = await maybeRecord(pool, phone.serial, kind, Number(id) || 0)
  if (!record) throw new HttpFailure(404, 'NoSuchRecord')
  return { body: giveRecord(phone, kind, record).body.toString('base64'), revision: String(record.revision) }
}

/** The bytes of a file, in pieces; a fault in the middle leaves it short. */
async function sendFile(pool: pg.Pool, phone: PhoneRow, kind: string, call: Call): Promise<undefined> {
  const { query, response } = call
  const file = await giveFile(pool, { serial: phone.serial, kind, handle: query.handle ?? '' })
  if (!file) throw new HttpFailure(404, 'NoSuchRecord')
  const effect = await faultAt(pool, phone.serial, 'file.give')
  if (effect === 'unknown-code') throw new LinkBroken(effect)
  response.writeHead(200, { 'content-type': 'application/octet-stream', 'content-length': file.sizeBytes })
  let sent = 0
  const pace = paceOf(phone)
  for await (const piece of file.pieces) {
    if (effect && effect !== 'other-bytes' && sent + piece.length >= file.sizeBytes / 2) {
      response.write(piece.subarray(0, Math.ceil(piece.length / 2)))
      throw new LinkBroken(effect)
    }
    if (!response.write(effect === 'other-bytes' ? randomBytes(piece.length) : piece)) await untilDrained(response)
    if (response.destroyed) return undefined
    sent += piece.length
    await pace(sent)
  }
  response.end()
  return undefined
}

/** The first frame the phone keeps of a film, small; none of one it could not open itself. */
async function previewOf(pool: pg.Pool, { serial }: PhoneRow, kind: string, handle: string): Promise<string | null> {
  const file = await maybeFile(pool, { serial, kind, handle })
  if (!file) throw new HttpFailure(404, 'NoSuchRecord')
  const media = file.made && 'media' in file.made ? file.made.media : undefined
  const isBroken = media && ('lies' in media || ('index' in media && media.index === 'none') || media.cutTo !== undefined)
  return isBroken ? null : frameOf(file.size_bytes).toString('base64')
}

/** A slow cable carries so many bytes a second, a hot phone fewer; a fast one is as fast as it can. */
function paceOf({ cable, temperature }: PhoneRow): (sent: number) => Promise<void> {
  const perMs = cable === 'slow' ? 3_000 : temperature >= 40 ? 6_000 : undefined
  const began = Date.now()
  return async (sent) => {
    if (perMs === undefined) return
    const ahead = sent / perMs - (Date.now() - began)
    if (ahead > 5) await new Promise((resolve) => setTimeout(resolve, ahead))
  }
}

async function receiveFile(pool: pg.Pool, phone: PhoneRow, kind: string, call: Call) {
  const { serial } = phone
  await pass(pool, phone, 'file.take')
  const free = phone.free_bytes - (await countLooseFiles(pool, serial)).bytes
  // who says beforehand how much will come is told at once that there is no room
  if (Number(call.headers['x-file-size'] ?? 0) > free) throw new HttpFailure(409, 'StorageFull')
  const mid = await faultAt(pool, serial, 'file.mid')
  const connection = call.headers['x-link-connection'] as string
  const pace = paceOf(phone)
  let got = 0
  async function* watched() {
    for await (const piece of call.stream()) {
      if (mid && got > 0) throw mid === 'full' ? new NoRoom() : new LinkBroken(mid)
      got += piece.length
      // the cable, the screen lock or another connection may end it at any piece
      if (!isConnected(serial, connection)) throw new LinkBroken('cut')
      yield piece
      await pace(got)
    }
    if (mid) throw mid === 'full' ? new NoRoom() : new LinkBroken(mid)
  }
  try {
    return await takeFile(pool, { serial, kind, free }, watched())
  } catch (error) {
    if (!(error instanceof NoRoom)) throw error
    // what came before keeps its place; nothing more has any
    if (mid === 'full') await changePhone(pool, serial, { free_bytes: (await countLooseFiles(pool, serial)).bytes })
    throw new HttpFailure(409, 'StorageFull')
  }
}

/** Changes one record; a platform whose phones can't says so. What it takes, it takes by the rules of writing. */
async function amend(
  pool: pg.Pool,
  phone: PhoneRow,
  kind: string,
  { id, ifRevision, record }: { id: string; ifRevision: string; record: string },
) {
  const dialect = recordsOf(phone, kind)!
  if (!dialect.joining?.amends) throw new HttpFailure(409, 'PermissionMissing')
  await pass(pool, phone, 'amend.before')
  const body = Buffer.from(record, 'base64')
  const there = await maybeRecord(pool, phone.serial, kind, Number(id) || 0)
  if (!there) throw new HttpFailure(404, 'NoSuchRecord')
  if (String(there.revision) !== ifRevision) throw new HttpFailure(409, 'RevisionChanged')
  const stored = dialect.take(body)
  if (dialect.refuses(stored)) throw new HttpFailure(409, 'PermissionMissing')
  await amendRecord(pool, phone.serial, kind, { id: there.id, data: stored, sizeBytes: body.length, name: nameIn(phone, kind, stored) })
  await bumpKind(pool, phone.serial, kind)
  await pass(pool, phone, 'amend.after')
  return { revision: String(there.revision + 1) }
}

async function remove(pool: pg.Pool, phone: PhoneRow, kind: string, { ids, ifRevision }: { ids: string[]; ifRevision: string }) {
  const { revision } = await ownCount(pool, phone, kind)
  if (ifRevision !== revision) throw new HttpFailure(409, 'RevisionChanged')
  const rows = await deleteRecords(pool, phone.serial, kind, ids.map(Number))
  await deleteFilesOf(
    pool,
    phone.serial,
    kind,
    rows.map((row) => row.id),
  )
  await giveRoomBack(
    pool,
    phone.serial,
    rows.reduce((sum, row) => sum + row.size_bytes, 0),
  )
  await bumpKind(pool, phone.serial, kind)
  return { removed: rows.map((row) => String(row.id)) }
}

function factsOf(phone: PhoneRow) {
  const { maker, platform } = modelOf(phone)
  return {
    serial: phone.serial,
    maker,
    model: phone.model,
    platform,
    version: phone.version,
    region: phone.region,
    zone: 'Europe/London',
    batteryPercent: phone.battery,
    isCharging: phone.is_charging,
    freeBytes: phone.free_bytes,
    totalBytes: phone.total_bytes,
    temperatureC: phone.temperature,
    settleMs: phone.settle_ms,
    bytesPerSecond: phone.cable === 'slow' ? 3_000_000 : 32_000_000,
    hasWorkArea: phone.has_work_area,
  }
}

async function portViews(pool: pg.Pool): Promise<PortView[]> {
  const rows = await manyPluggedPhones(pool)
  return [1, 2, 3, 4, 5, 6, 7, 8].map((port) => {
    const phone = rows.find((row) => row.port === port)
    if (!phone) return { port, drawsPower: false, phone: null }
    const { platform } = modelOf(phone)
    // a phone that is not seen still draws current from its port
    if (!isVisible(phone, platform)) return { port, drawsPower: true, phone: null }
    const question = questionOf(phone, platform)
    const asks = question ? { question: question.question, sinceMs: question.since.getTime() } : null
    const speaks = canAsk(phone, platform) && phone.trust === 'trusted' && !phone.is_locked
    return { port, drawsPower: true, phone: { facts: factsOf(phone), readiness: reportOf(phone, platform), asks, speaks } }
  })
}

async function watchPhones({ response }: Call): Promise<undefined> {
  response.writeHead(200, { 'content-type': 'application/x-ndjson' })
  const tell = (event: object) => response.write(JSON.stringify(event) + '\n')
  tell({ event: 'here' })
  const stop = watch(tell)
  const beat = setInterval(() => tell({ event: 'here' }), 5000)
  await once(response, 'close')
  clearInterval(beat)
  stop()
  return undefined
}
