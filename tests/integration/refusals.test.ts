import { randomUUID } from 'node:crypto'
import { createWriteStream, readFileSync } from 'node:fs'
import { IncomingMessage, ServerResponse } from 'node:http'
import { Socket } from 'node:net'
import { join } from 'node:path'
import { Writable } from 'node:stream'
import { TextReader, ZipWriter } from '@zip.js/zip.js'
import { zipSync } from 'fflate'
import { createEvent } from 'h3'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { isErrorCode } from '#contracts/errors.ts'
import { practice } from '#server/api/answers/practice.ts'
import { problemOf } from '#server/api/door/problems.ts'
import { changeKinds } from '#server/desk/book-in/kinds.ts'
import { pauseTicketRun, resumeTicketRun, startCarry } from '#server/desk/carry/act.ts'
import { acceptDifference } from '#server/desk/check-off/act.ts'
import { choose, putFirst } from '#server/desk/choose/act.ts'
import { undoJoinings } from '#server/desk/choose/joinings.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { lockTakeHome } from '#server/desk/take-home/act.ts'
import { show } from '#server/desk/items/show.ts'
import { writeFile } from '#server/desk/items/write-file.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { practiceBench } from '#server/endpoints/makers/practice.ts'
import { markPort } from '#server/endpoints/ports.ts'
import { beginUpload, sortUploaded, takePiece, uploadStands } from '#server/endpoints/brought/uploads.ts'
import { pieceBytes } from '#server/endpoints/brought/pieces.ts'
import { takeUpload } from '#server/endpoints/upload-store.ts'
import { readCourse } from '#server/desk/course.ts'
import { openShop, type TestShop } from '../setup/shop.ts'
import { codeOf } from '../setup/codes.ts'
import { fileWish, once } from '../setup/uploads.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, useShop, waitFor, worker } from '../setup/ticket.ts'

const theShop = useShop()
const services = () => theShop().services
const as = () => ({ actor: theShop().actor })
let n = 0
/** Two phones in their ports, those of the ticket before pulled, and a ticket that names them. */
async function plugged({ more = 0 }: { more?: number } = {}, kinds = ['contacts', 'calls']) {
  const shop = theShop()
  for (const { serial } of (await shop.hand('phones')).phones) await shop.hand(`phones/${serial}/pull`, {})
  n++
  const old = { serial: `RF-O${n}`, model: 'Orrin 5', port: 1, people: { seed: n, count: 8 } }
  const now = { serial: `RF-N${n}`, model: 'Orrin 9', port: 2, ...(more ? { people: { seed: 90 + n, count: more } } : {}) }
  for (const phone of [old, now]) await addPhone(shop, phone)
  return { old, now, number: await bookTicket(shop, old, now, kinds) }
}

describe('what a ticket refuses, each with its code', () => {
  it('one that is not there, a kind that is not on it, what comes too early', async () => {
    const { number } = await plugged()
    expect(await codeOf(readTicket(services(), 'T-9999', theShop().actor))).toBe('TicketNotFound')
    expect(await codeOf(putFirst(services(), number, 'photos'))).toBe('KindUnknown')
    expect(await codeOf(lockTakeHome(services(), number, { password: null, ...as() }))).toBe('NothingTakenHome')
    await show(services(), number, { reason: 'customer-asks', ...as() })
    expect(await codeOf(writeFile(services(), number, { kind: 'contacts', format: 'vcf-4.0', ...as() }))).toBe('StageNotReached')
    expect(
      await codeOf(choose(services(), number, { kind: 'contacts', body: { choice: 'none', mode: 'add', set: [], slice: null } })),
    ).toBe('OldNotRead')
    expect(await codeOf(pauseTicketRun(services(), number))).toBe('RunNotFound')
    expect(await codeOf(resumeTicketRun(services(), number))).toBe('NotPaused')
    expect(await codeOf(markPort(services(), 7, 'NEW'))).toBe('PortEmpty')
  })

  it('phones that look mixed up, a joining undone while something waits, a kind of which something is written', async () => {
    const { number } = await plugged({ more: 80 })
    const counted = await countIn(theShop(), number)
    const stamps = Object.fromEntries(counted.forecasts.map((forecast) => [forecast.kind, forecast.stamp]))
    expect(await codeOf(startCarry(services(), number, { ...as(), body: { stamps, confirmRoles: false } }))).toBe('NewPhoneFuller')
    expect(await codeOf(undoJoinings(services(), number, { kind: 'contacts', keys: undefined, ...as() }))).toBe('CarryFirst')
    await startCarry(services(), number, { ...as(), body: { stamps, confirmRoles: true } })
    await waitFor(theShop(), number, isChecked, 'check off')
    expect(await codeOf(changeKinds(services(), number, { add: [], remove: ['contacts'] }))).toBe('KindFrozen')
    expect(await codeOf(acceptDifference(services(), number, { kind: 'contacts', by: 'Ines Harrow' }))).toBe('NothingToAccept')
    const away = { why: 'Bought another', takeAway: true, typed: 'T-1' }
    expect(await codeOf(callOff(services(), number, { ...as(), body: away }))).toBe('NumberNotTyped')
  })
})

describe('what the line waits for, each with its code', () => {
  let shop: TestShop
  beforeAll(async () => {
    shop = await openShop()
  })
  afterAll(() => shop.close())
  const whys = async (number: string) => (await readCourse(shop.services, number)).acts.map(({ why }) => why)
  const pair = (mark: string, port: number) =>
    ['O', 'N'].map((side, i) => ({ serial: `WT-${mark}${side}`, model: side === 'O' ? 'Orrin 5' : 'Orrin 9', port: port + i }))

  it('a phone whose list does not meet its own count is counted again, and then the ticket waits', async () => {
    const [old, now] = pair('A', 1)
    for (const phone of [old!, now!]) await addPhone(shop, { ...phone, people: { seed: 3, count: 8 } })
    const number = await bookTicket(shop, old!, now!)
    await shop.hand(`phones/${old!.serial}/faults`, { faults: [{ point: 'list.end', effect: 'leave-out-one', times: 5 }] })
    const hands = worker(shop)
    await countIn(shop, number)
    hands.kill()
    expect(await whys(number)).toContain('CountNotMet')
  })

  it('a file that is another by now than the one that was counted: the old phone is looked at again by itself', async () => {
    const [old, now] = pair('B', 3)
    for (const phone of [old!, now!]) await addPhone(shop, phone)
    await shop.hand(`phones/${old!.serial}/fill`, { kind: 'apps', seed: 4, count: 12 })
    const number = await bookTicket(shop, old!, now!, ['apps'])
    const apps = (await shop.hand(`phones/${old!.serial}/store?kind=apps`)).records as { id: string; facts: string[] }[]
    const last = apps.filter(({ facts }) => !facts[0]!.includes('"data":null')).at(-1)!
    let isUsed = false
    const hands = worker(shop, async (name) => {
      if (name !== 'file-moved' || isUsed) return
      isUsed = true
      await shop.hand(`phones/${old!.serial}/use-app`, { id: Number(last.id) })
    })
    await countIn(shop, number)
    await carry(shop, number)
    const ticket = await waitFor(shop, number, isChecked, 'check off')
    hands.kill()
    expect(await whys(number)).toContain('FileChanged')
    await expectAgrees(shop, ticket, { old: old!.serial, new: now!.serial })
  })
})

describe('what a phone refuses, each with its code', () => {
  it('a list that breaks off is never a short one', async () => {
    const { old } = await plugged()
    const connection = await practiceBench(services().config.station!.link).endpoint(old.serial).attach()
    await theShop().hand(`phones/${old.serial}/faults`, { faults: [{ point: 'list.mid', effect: 'cut' }] })
    const list = async () => {
      for await (const _ of connection.source.list('contacts')) continue
    }
    expect(await codeOf(list())).toBe('LinkLost')
  })

  it('a record that is not there, and one that changed meanwhile', async () => {
    const { old } = await plugged()
    const connection = await practiceBench(services().config.station!.link).endpoint(old.serial).attach()
    expect(await codeOf(connection.sink!.open('contacts', '999999'))).toBe('NoSuchRecord')
    const [first] = (await theShop().hand(`phones/${old.serial}/store?kind=contacts`)).records as { id: string; card: string }[]
    expect(await codeOf(connection.sink!.amend('contacts', first!.id, 'another', Buffer.from(first!.card, 'latin1')))).toBe(
      'RevisionChanged',
    )
  })
})

describe('what an upload refuses, each with its code', () => {
  const take = (bytes: Uint8Array) =>
    takeUpload(
      services().config,
      (async function* () {
        yield bytes
      })(),
    )
  it('a ZIP that is locked', async () => {
    const zip = zipSync({ 'a.vcf': Buffer.from('BEGIN:VCARD\r\nVERSION:3.0\r\nFN:x\r\nEND:VCARD\r\n'.repeat(50)) })
    const view = new DataView(zip.buffer, zip.byteOffset, zip.byteLength)
    const directory = view.getUint32(zip.byteLength - 6, true)
    view.setUint16(6, 1, true)
    view.setUint16(directory + 8, 1, true)
    expect(await codeOf(take(zip))).toBe('ZipLocked')
  })
  it('a ZIP whose password is another', async () => {
    const path = join(services().config.dataFolder, 'locked.zip')
    const out = createWriteStream(path)
    const zip = new ZipWriter(Writable.toWeb(out) as WritableStream, { password: 'Lantern 12', encryptionStrength: 3 })
    await zip.add('a.vcf', new TextReader('BEGIN:VCARD\r\nVERSION:3.0\r\nFN:x\r\nEND:VCARD\r\n'))
    await zip.close()
    const bytes = readFileSync(path)
    const { upload } = await beginUpload(services(), { upload: null, files: [fileWish('a.zip', bytes)] })
    await takePiece(services(), upload, { no: 0, from: 0, body: once(bytes) })
    expect(await sortUploaded(services(), upload, { password: null })).toMatchObject({ state: 'locked', problem: 'ZipLocked' })
    expect(await sortUploaded(services(), upload, { password: 'lantern 12' })).toMatchObject({
      state: 'locked',
      problem: 'ZipWrongPassword',
    })
    expect(await sortUploaded(services(), upload, { password: 'Lantern 12' })).toMatchObject({ state: 'sorted', items: { contacts: 1 } })
  })
  it('a calendar that is too large', async () => {
    const event = Buffer.from(`BEGIN:VEVENT\r\nDTSTART:20260101\r\nSUMMARY:${'x'.repeat(100_000)}\r\nEND:VEVENT\r\n`)
    const calendar = Buffer.concat([
      Buffer.from('BEGIN:VCALENDAR\r\nVERSION:2.0\r\n'),
      ...Array<Buffer>(650).fill(event),
      Buffer.from('END:VCALENDAR\r\n'),
    ])
    expect(await codeOf(take(calendar))).toBe('FileTooLarge')
  })
  it('pieces that are not there, come twice, or in no order; sorting before all is there', async () => {
    const bytes = Buffer.from('BEGIN:VCARD\r\nVERSION:3.0\r\nFN:x\r\nEND:VCARD\r\n')
    const { upload } = await beginUpload(services(), { upload: null, files: [fileWish('a.vcf', bytes)] })
    expect(await codeOf(sortUploaded(services(), upload, { password: null }))).toBe('UploadNotWhole')
    expect(await codeOf(takePiece(services(), upload, { no: 1, from: 0, body: once(bytes) }))).toBe('UploadNotFound')
    expect(await codeOf(takePiece(services(), upload, { no: 0, from: pieceBytes, body: once(bytes) }))).toBe('PieceOutOfPlace')
    expect(await codeOf(takePiece(services(), upload, { no: 0, from: 0, body: once(bytes.subarray(3)) }))).toBe('PieceOutOfPlace')
    expect(await codeOf(takePiece(services(), upload, { no: 0, from: 0, body: once(Buffer.concat([bytes, bytes])) }))).toBe('FileTooLarge')
    await takePiece(services(), upload, { no: 0, from: 0, body: once(bytes) })
    expect(await codeOf(takePiece(services(), upload, { no: 0, from: 0, body: once(bytes) }))).toBe('PieceOutOfPlace')
    expect(await codeOf(uploadStands(services(), randomUUID()))).toBe('UploadNotFound')
    // once it is sorted it may be a ticket's: whoever names it again gives up nothing of it
    const stands = await sortUploaded(services(), upload, { password: null })
    expect(await codeOf(beginUpload(services(), { upload, files: [fileWish('other.vcf', Buffer.from('x'))] }))).toBe('UploadNotFound')
    expect(await uploadStands(services(), upload)).toEqual(stands)
  })
  it('more than the disk has room for', async () => {
    const huge = { path: 'film.mp4', sizeBytes: 2 ** 52, modifiedMs: 0, beginning: '0'.repeat(64) }
    expect(await codeOf(beginUpload(services(), { upload: null, files: [huge] }))).toBe('UploadsFull')
  })
})

describe('what passes, or nobody foresaw', () => {
  const said = (error: unknown) => {
    const event = createEvent(new IncomingMessage(new Socket()), new ServerResponse(new IncomingMessage(new Socket())))
    return problemOf(event, services(), error)
  }
  it.each([
    [Object.assign(new Error('cancelled'), { code: '57014' }), 'TookTooLong', 503],
    [Object.assign(new Error('refused'), { code: 'ECONNREFUSED' }), 'DatabaseAway', 503],
    [new Error('connection error and is not queryable'), 'DatabaseAway', 503],
    [new Error('Ines Harrow, 07700 900001'), 'Internal', 500],
  ])('%s', (error, code, status) => {
    const answer = said(error)
    expect(answer).toMatchObject({ code, status })
    expect(isErrorCode(code) && JSON.stringify(answer)).not.toContain('Harrow')
  })
  it('practice phones that are not there', async () => {
    const stations = [{ ...services().config.station!, hand: { url: 'http://127.0.0.1:1', token: 'x' } }]
    const away = { ...services(), config: { ...services().config, stations } }
    const look = practice[0]!.work as (call: object) => Promise<unknown>
    expect(await codeOf(look({ services: away, params: { path: 'phones' }, query: {} }))).toBe('PracticeAway')
  })
})
