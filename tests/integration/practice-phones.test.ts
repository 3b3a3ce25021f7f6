import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeFile } from '#standins/files/files.ts'
import { longFilm } from '#standins/kinds/videos/index.ts'
import { practiceBench } from '#server/endpoints/makers/practice.ts'
import { openShop, type TestShop } from '../setup/shop.ts'

let shop: TestShop
let n = 0
beforeAll(async () => {
  shop = await openShop()
})
afterAll(() => shop.close())

const link = () => shop.services.config.station!.link
const hand = (serial: string, act: string, body: object = {}) => shop.hand(`phones/${serial}/${act}`, body)
async function boxed(model: string, wish: object = {}): Promise<string> {
  const serial = `B-${++n}`
  await shop.hand('phones', { serial, model, version: '15', state: 'in-box', ...wish })
  return serial
}
async function prepared(model: string, change: object = {}): Promise<string> {
  const serial = `P-${++n}`
  await shop.hand('phones', { serial, model, version: '15', settle_ms: 20 })
  await hand(serial, 'set', change)
  return serial
}
const view = async (serial: string) => (await practiceBench(link()).ports()).find(({ phone }) => phone?.facts.serial === serial)
const port = async (at: number) => (await practiceBench(link()).ports()).find((p) => p.port === at)!
async function until(what: () => Promise<boolean>, ms = 60_000) {
  const end = Date.now() + ms
  while (!(await what())) {
    if (Date.now() > end) throw new Error('it never came')
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
}

describe('a phone from its box', () => {
  it('Android: off, greeting, set up, seven taps, debugging, the computer, the helper: each only after the one before', async () => {
    const serial = await boxed('Orrin 7')
    await hand(serial, 'plug', { port: 1 })
    expect(await port(1)).toMatchObject({ drawsPower: true, phone: null })
    await expect(hand(serial, 'cable-files')).rejects.toThrow('off')
    await hand(serial, 'turn-on')
    await expect(hand(serial, 'cable-files')).rejects.toThrow('at-welcome')
    await hand(serial, 'finish-welcome')
    await hand(serial, 'cable-files')
    expect((await view(serial))?.phone).toMatchObject({ speaks: false, asks: null })
    await expect(hand(serial, 'turn-on-debugging')).rejects.toThrow('first-developer-options')
    for (let i = 0; i < 6; i++) await hand(serial, 'tap-build-number')
    await expect(hand(serial, 'turn-on-debugging')).rejects.toThrow('first-developer-options')
    await hand(serial, 'tap-build-number')
    await hand(serial, 'turn-on-debugging')
    expect((await view(serial))?.phone?.asks?.question).toBe('trust')
    await hand(serial, 'trust')
    await practiceBench(link())
      .endpoint(serial)
      .body!.prepare({ kinds: ['contacts'], writes: true })
    expect((await view(serial))?.phone?.asks?.question).toBe('install-helper')
    await hand(serial, 'install-helper')
    expect((await view(serial))?.phone?.asks?.question).toBe('allow-contacts')
    await hand(serial, 'allow-contacts')
    expect((await view(serial))?.phone).toMatchObject({ speaks: true, asks: null })
    await hand(serial, 'pull')
  })

  it('keypad: seen over Bluetooth alone, paired by its code', async () => {
    const serial = await boxed('Holt 3')
    await hand(serial, 'plug', { port: 1 })
    await hand(serial, 'turn-on')
    await hand(serial, 'finish-welcome')
    expect((await port(1)).phone).toBeNull()
    await hand(serial, 'bluetooth-on')
    expect((await view(serial))?.phone?.asks?.question).toBe('trust')
    await hand(serial, 'trust')
    expect((await view(serial))?.phone?.speaks).toBe(true)
    await expect(hand(serial, 'install-helper')).rejects.toThrow('not-on-this-phone')
    await hand(serial, 'pull')
  })

  it('iOS: the passcode goes off only after the anti-theft lock', async () => {
    const serial = await prepared('Veyra 12')
    await expect(hand(serial, 'passcode-off')).rejects.toThrow('first-anti-theft-off')
    await hand(serial, 'anti-theft-off')
    await hand(serial, 'passcode-off')
    expect((await shop.hand(`phones/${serial}`)).switches).toMatchObject({ 'anti-theft-off': true, 'passcode-off': true })
  })
})

describe('habits', () => {
  it('a Tamsel out of its box falls back to charging only each time its cable is moved', async () => {
    const serial = await boxed('Tamsel M3')
    await hand(serial, 'turn-on')
    await hand(serial, 'finish-welcome')
    await hand(serial, 'cable-files')
    await hand(serial, 'plug', { port: 2 })
    expect((await port(2)).phone).toBeNull()
    await hand(serial, 'cable-files')
    expect((await port(2)).phone).not.toBeNull()
    await hand(serial, 'replug')
    expect((await port(2)).phone).toBeNull()
    await hand(serial, 'pull')
  })

  it('a computer allowed only once is forgotten when the cable is pulled; one allowed always is not', async () => {
    for (const [once, after] of [
      [true, 'asked'],
      [false, 'trusted'],
    ] as const) {
      const serial = await prepared('Orrin 5')
      await hand(serial, 'plug', { port: 3 })
      await hand(serial, 'trust', { once })
      await hand(serial, 'replug')
      expect((await shop.hand(`phones/${serial}`)).trust).toBe(after)
      await hand(serial, 'pull')
    }
  })

  it('a question nobody answers goes by, and replugging asks it again', async () => {
    const serial = await prepared('Veyra 10', { prompt_ms: 300 })
    await hand(serial, 'plug', { port: 4 })
    await until(async () => (await shop.hand(`phones/${serial}`)).trust === 'none')
    await hand(serial, 'replug')
    expect((await shop.hand(`phones/${serial}`)).trust).toBe('asked')
    await hand(serial, 'pull')
  })

  it('an idle screen locks, unless it stays on', async () => {
    const idle = await prepared('Orrin 5', { locks_after_ms: 200 })
    const kept = await prepared('Orrin 5')
    await hand(kept, 'screen-stay-on')
    await hand(kept, 'set', { locks_after_ms: 200 })
    await until(async () => (await shop.hand(`phones/${idle}`)).isLocked)
    expect((await shop.hand(`phones/${kept}`)).isLocked).toBe(false)
  })

  it('an account syncs contacts in by itself until it is paused', async () => {
    const serial = await prepared('Veyra 12', { sync_left: 50 })
    await hand(serial, 'resume-accounts')
    await until(async () => (await shop.hand(`phones/${serial}`)).contacts >= 2)
    await hand(serial, 'pause-accounts')
    await new Promise((resolve) => setTimeout(resolve, 700))
    const { contacts } = await shop.hand(`phones/${serial}`)
    await new Promise((resolve) => setTimeout(resolve, 1200))
    expect((await shop.hand(`phones/${serial}`)).contacts).toBe(contacts)
  })

  it('a hot phone cools by itself, half a degree a second', async () => {
    const serial = await prepared('Orrin 5', { temperature: 45.4, is_live: true })
    await until(async () => (await shop.hand(`phones/${serial}`)).temperature < 45)
  })

  it('a phone with few places is full when they are', async () => {
    const serial = await prepared('Holt 3')
    await shop.hand(`phones/${serial}/fill`, { seed: 2, count: 299 })
    await hand(serial, 'plug', { port: 5 })
    await hand(serial, 'trust')
    const connection = await practiceBench(link()).endpoint(serial).attach()
    const card = (name: string) => Buffer.from(`BEGIN:VCARD\r\nVERSION:2.1\r\nN:;${name};;;\r\nTEL:07700900123\r\nEND:VCARD\r\n`)
    expect(await connection.sink!.write('contacts', [card('First'), card('Second')])).toEqual([
      { ids: [expect.any(String)] },
      { refused: 'storage-full' },
    ])
    expect(await connection.sink!.write('calls', [card('x')])).toEqual([{ refused: 'not-understood' }])
    await hand(serial, 'pull')
  })
})

describe('what the link refuses, each with its code', () => {
  it.each<[string, object, string]>([
    ['locked', {}, 'PhoneLocked'],
    ['debugging off', { switches: { 'cable-files': true, helper: true } }, 'DebuggingOff'],
    ['the helper gone', { switches: { 'cable-files': true, debugging: true } }, 'HelperMissing'],
    ['a permission withdrawn', { allows: [] }, 'PermissionMissing'],
    ['too hot', { temperature: 46 }, 'TooHot'],
    ['forgotten', {}, 'TrustNeeded'],
    ['refused', {}, 'TrustRefused'],
  ])('%s', async (what, change, code) => {
    const serial = await prepared('Orrin 5')
    await hand(serial, 'plug', { port: 6 })
    await hand(serial, 'trust')
    const connection = await practiceBench(link()).endpoint(serial).attach()
    await hand(serial, 'set', change)
    if (what === 'locked') await hand(serial, 'lock')
    if (what === 'forgotten' || what === 'refused') await hand(serial, 'forget-computers')
    if (what === 'refused') {
      await hand(serial, 'replug')
      await hand(serial, 'refuse')
    }
    // the cable ended the connection
    const now = what === 'refused' ? await practiceBench(link()).endpoint(serial).attach() : connection
    await expect(now.source.count('contacts')).rejects.toMatchObject({ code })
    await hand(serial, 'pull')
  })

  it('a kind the phone does not have, a connection that another took, a phone that is pulled', async () => {
    const serial = await prepared('Orrin 5')
    await hand(serial, 'plug', { port: 7 })
    await hand(serial, 'trust')
    const first = await practiceBench(link()).endpoint(serial).attach()
    await expect(first.source.count('stickers')).rejects.toMatchObject({ code: 'LinkProtocol' })
    const second = await practiceBench(link()).endpoint(serial).attach()
    await expect(first.source.count('contacts')).rejects.toMatchObject({ code: 'ConnectionTaken' })
    await hand(serial, 'pull')
    await expect(second.source.count('contacts')).rejects.toMatchObject({ code: 'NotPlugged' })
  })
})

describe('a file too large to be kept', () => {
  const seed = 5
  const size = 6_000_000
  const film = () => makeFile({ media: longFilm(seed, size) })
  async function* inPieces(bytes: Buffer) {
    for (let at = 0; at < bytes.length; at += 65_536) yield bytes.subarray(at, at + 65_536)
  }

  it('is the same bytes whoever makes it; taken, it is kept as what it was made of, and changed on its way it is kept as it came', async () => {
    const serial = await prepared('Orrin 5')
    await hand(serial, 'plug', { port: 8 })
    await hand(serial, 'trust')
    await hand(serial, 'allow-videos').catch(() => undefined)
    await hand(serial, 'fill', { kind: 'videos', seed, count: 0, film: size })
    const { source, sink } = await practiceBench(link()).endpoint(serial).attach()
    const whole = async (handle: string) => {
      const pieces: Uint8Array[] = []
      for await (const piece of source.openFile('videos', handle)) pieces.push(piece)
      return Buffer.concat(pieces)
    }
    expect((await whole(`v${seed}-1`)).equals(film())).toBe(true)
    const taken = await sink!.putFile('videos', inPieces(film()))
    expect((await whole(taken)).equals(film())).toBe(true)
    const changed = film()
    changed[5_000_000]! ^= 255
    const tail = Buffer.concat([changed, Buffer.from('and more')])
    expect((await whole(await sink!.putFile('videos', inPieces(tail)))).equals(tail)).toBe(true)
    // one that breaks off is none
    await expect(sink!.putFile('videos', inPieces(film().subarray(0, 4_000_000)))).rejects.toThrow()
  })
})
