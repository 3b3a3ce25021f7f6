import type { EntryFilter } from '#contracts/http/ledger.ts'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCipheriv, hash, randomBytes, randomUUID } from 'node:crypto'
import { zipSync } from 'fflate'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { signIn, readSessions, endSession, type SigningIn, findStaff, signOut } from '#server/case/auth.ts'
import { transaction } from '#server/base/db/sql.ts'
import { manyMissed } from '#server/case/tickets.queries.ts'
import { createContext, LeaseLost } from '#server/runs/context.ts'
import { claimRun, endRun, insertRun, manyClaimable, pauseRun, renewLease, stopRun } from '#server/runs/runs.queries.ts'
import { readEntries } from '#server/desk/items/entries.ts'
import { choose } from '#server/desk/choose/act.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { show } from '#server/desk/items/show.ts'
import { forgetStrayKeys, keepSecret } from '#server/vault/holdings.ts'
import { moveUploads } from '#server/endpoints/move-uploads.ts'
import { openUpload, takeUpload, textOf } from '#server/endpoints/upload-store.ts'
import { forgetStray } from '#server/vault/erase.ts'
import { folderOfKeys } from '#server/vault/key-store.ts'
import { codeOf } from '../setup/codes.ts'
import { openShop, pin, type TestShop } from '../setup/shop.ts'
import { addPhone, bookTicket, countIn, waitFor, worker } from '../setup/ticket.ts'
import type { HoldingId, TicketId, RunId } from '#server/base/ids.ts'

let shop: TestShop
beforeAll(async () => {
  shop = await openShop()
})
afterAll(() => shop.close())

describe('runs and leases', () => {
  let ticketId = 0 as TicketId
  let n = 0
  const pool = () => shop.services.pool
  const start = (serials: string[]) =>
    transaction(pool(), (client) => insertRun(client, { ticketId, type: 'carry', serials, station: null, staffId: null }))
  const claim = (runId: RunId, owner: string, leaseMs = 60_000) => claimRun(pool(), { runId, owner, leaseMs, elsewhere: [] })
  beforeEach(async () => {
    n++
    const number = await bookTicket(
      shop,
      { serial: `R-${n}a`, model: 'Orrin 5', port: 1 },
      { serial: `R-${n}b`, model: 'Veyra 12', port: 2 },
    )
    ticketId = (await pool().query('select id from ticket where number = $1', [number])).rows[0].id
  })

  it('a run is claimed once, whoever asks', async () => {
    const run = await start([`x${n}`])
    const claims = await Promise.all(['a', 'b', 'c', 'd'].map((owner) => claim(run.id, owner)))
    expect(claims.filter(Boolean)).toHaveLength(1)
    expect((await manyClaimable(pool(), [])).map((r) => r.id)).not.toContain(run.id)
  })

  it('one whose lease ran out is claimed by a new epoch, and the old owner can write nothing any more', async () => {
    const run = await start([`x${n}`])
    const first = (await claim(run.id, 'a', 20))!
    await new Promise((resolve) => setTimeout(resolve, 40))
    const second = (await claim(run.id, 'b'))!
    expect(second.epoch).toBe(first.epoch + 1)
    expect(await renewLease(pool(), { runId: run.id, epoch: first.epoch, leaseMs: 1000 })).toBe(0)
    expect(await endRun(pool(), { runId: run.id, epoch: first.epoch, state: 'done' })).toBe(0)
    const stale = createContext(shop.services, first, { signal: new AbortController().signal })
    await expect(
      stale.fenced(async (client) => client.query('update ticket set waits_in_shop = false where id = $1', [ticketId])),
    ).rejects.toThrow(LeaseLost)
    await expect(stale.progress('carrying', 0, 1)).rejects.toThrow(LeaseLost)
    expect((await pool().query('select waits_in_shop from ticket where id = $1', [ticketId])).rows[0].waits_in_shop).toBe(true)
  })

  it('a phone has one active run at most; when it ends, the phone is free', async () => {
    const run = await start([`p${n}`, `q${n}`])
    await expect(start([`q${n}`])).rejects.toMatchObject({ code: '23505' })
    const { epoch } = (await claim(run.id, 'a'))!
    await endRun(pool(), { runId: run.id, epoch, state: 'done' })
    await expect(start([`q${n}`])).resolves.toBeTruthy()
  })

  it('a paused run is not claimed before its time, and is after it', async () => {
    const run = await start([`x${n}`])
    const { epoch } = (await claim(run.id, 'a'))!
    await pauseRun(pool(), { runId: run.id, epoch, reason: 'PhoneLocked', side: 'new', retryMs: 60_000 })
    expect(await claim(run.id, 'b')).toBeUndefined()
    await pool().query('update run set retry_at = now() where id = $1', [run.id])
    expect(await claim(run.id, 'b')).toMatchObject({ epoch: epoch + 1, reason: null })
  })

  it('a stopped run lets its owner write nothing', async () => {
    const run = await start([`x${n}`])
    const mine = (await claim(run.id, 'a'))!
    expect(await stopRun(pool(), run.id)).toBe(1)
    await expect(createContext(shop.services, mine, { signal: new AbortController().signal }).fenced(async () => 1)).rejects.toThrow(
      LeaseLost,
    )
    expect(await stopRun(pool(), run.id)).toBe(0)
  })

  it('a page that was away is told what it missed, a row a ticket', async () => {
    const { rows } = await pool().query('select coalesce(max(seq), 0) as seq from ticket_event')
    const number = await bookTicket(
      shop,
      { serial: `M-${n}a`, model: 'Orrin 5', port: 1 },
      { serial: `M-${n}b`, model: 'Veyra 12', port: 2 },
    )
    expect((await manyMissed(shop.services.pool, rows[0].seq)).map((m) => m.ticket)).toEqual([number])
  })

  it('while something holds its row, one beat of its owner waits, however many fall due', async () => {
    const old = { serial: 'HB-O', model: 'Orrin 5', port: 3, people: { seed: 5, count: 1500 } }
    const now = { serial: 'HB-N', model: 'Orrin 9', port: 4 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    const number = await bookTicket(shop, old, now)
    const hands = worker(shop)
    await startCountIn(shop.services, number, shop.actor)
    const waiting = await transaction(pool(), async (client) => {
      const held = () =>
        client.query(
          `select r.id from run r join ticket t on t.id = r.ticket_id where t.number = $1 and r.state = 'running' for update of r`,
          [number],
        )
      while ((await held()).rowCount === 0) await new Promise((resolve) => setTimeout(resolve, 5))
      await new Promise((resolve) => setTimeout(resolve, shop.services.config.leaseMs * 3))
      const { rows } = await client.query(
        `select pid from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock' and query like 'update run set lease_until%'`,
      )
      return rows.length
    })
    expect(waiting).toBe(1)
    await waitFor(shop, number, (t) => t.run === null && t.forecasts.length > 0, 'count in')
    hands.kill()
  })
})

describe('ticket numbers', () => {
  it('follow each other: a booking that is refused uses none up, and the ten-thousandth is none of the first', async () => {
    const { pool } = shop.services
    const book = (mark: string, serial = `NU-${mark}`) =>
      bookTicket(shop, { serial, model: 'Orrin 5', port: 1 }, { serial: `NN-${mark}`, model: 'Orrin 9', port: 2 })
    const first = await book('1')
    await expect(book('2', 'NU-1')).rejects.toMatchObject({ code: 'PhoneOnOtherTicket' })
    const second = await book('3')
    expect(Number(second.slice(2))).toBe(Number(first.slice(2)) + 1)
    const { rows } = await pool.query('select next_number from shop')
    await pool.query('update shop set next_number = 9999')
    expect([await book('4'), await book('5')]).toEqual(['T-9999', 'T-10000'])
    await pool.query('update shop set next_number = $1', [rows[0].next_number])
  })
})

describe('signing in', () => {
  const rowan = (change: Partial<SigningIn> = {}): SigningIn => ({ name: 'Rowan', pin, address: '10.0.0.1', ...change })

  it('keeps only a hash of the token, and ends with signing out', async () => {
    const { pool } = shop.services
    const { token } = await signIn(pool, rowan({ name: 'rowan' }))
    expect(await findStaff(pool, token, { by: 'session' })).toMatchObject({ name: 'Rowan' })
    expect(JSON.stringify((await pool.query('select * from session, browser')).rows)).not.toContain(token)
    await signOut(pool, token)
    expect(await findStaff(pool, token, { by: 'session' })).toBeUndefined()
    expect(await findStaff(pool, shop.token, { by: 'bearer' })).toMatchObject({ name: 'Rowan' })
    expect(await findStaff(pool, shop.token, { by: 'session' })).toBeUndefined()
  })

  it('five wrong PINs and the name waits, for the right one too; each wrong one after it waits longer', async () => {
    const { pool } = shop.services
    const here = { address: '10.0.0.2' }
    const wait = async () =>
      (await pool.query<{ s: number }>('select max(extract(epoch from until - now()))::float8 as s from sign_in_try')).rows[0]!.s
    for (let i = 0; i < 5; i++) expect(await codeOf(signIn(pool, rowan({ ...here, pin: '0000' })))).toBe('WrongPin')
    expect(await codeOf(signIn(pool, rowan(here)))).toBe('PinThrottled')
    const first = await wait()
    await pool.query('update sign_in_try set until = now() where until is not null')
    expect(await codeOf(signIn(pool, rowan({ ...here, pin: '0000' })))).toBe('WrongPin')
    expect((await wait()) / first).toBeGreaterThan(1.8)
    // from elsewhere, nobody is locked out by that
    expect(await codeOf(signIn(pool, rowan({ address: '10.0.0.3' })))).toBe('nothing was refused')
    await pool.query('update sign_in_try set until = now() where until is not null')
    expect(await codeOf(signIn(pool, rowan(here)))).toBe('nothing was refused')
  })

  it('forty guesses at once are five', async () => {
    const { pool } = shop.services
    const guesses = Array.from({ length: 39 }, (_, i) => codeOf(signIn(pool, rowan({ address: '10.0.0.4', pin: `${1000 + i}` }))))
    const codes = await Promise.all(guesses)
    expect([codes.filter((code) => code === 'WrongPin').length, codes.filter((code) => code === 'PinThrottled').length]).toEqual([5, 34])
    expect(await codeOf(signIn(pool, rowan({ address: '10.0.0.4' })))).toBe('PinThrottled')
  })

  it('a browser that signed in before is not locked out by what others try beside it', async () => {
    const { pool } = shop.services
    const { browser } = await signIn(pool, rowan({ address: '10.0.0.5' }))
    for (let i = 0; i < 6; i++) await codeOf(signIn(pool, rowan({ address: '10.0.0.5', pin: '0000' })))
    expect(await codeOf(signIn(pool, rowan({ address: '10.0.0.5' })))).toBe('PinThrottled')
    expect(await codeOf(signIn(pool, rowan({ address: '10.0.0.5', browser })))).toBe('nothing was refused')
    // and it is a mark for that name alone
    expect(await codeOf(signIn(pool, { name: 'Nobody', pin: '0000', address: '10.0.0.5', browser }))).toBe('WrongPin')
  })

  it('a name that is not there says the same, waits the same, and costs as much', async () => {
    const { pool } = shop.services
    const nobody = { name: 'Nobody', pin: '0000', address: '10.0.0.6' }
    const codes = []
    for (let i = 0; i < 6; i++) codes.push(await codeOf(signIn(pool, nobody)))
    expect(codes).toEqual([...Array.from({ length: 5 }, () => 'WrongPin'), 'PinThrottled'])
    const time = async (name: string, address: string) => {
      const began = performance.now()
      for (let i = 0; i < 4; i++) await codeOf(signIn(pool, { name, pin: '0000', address }))
      return performance.now() - began
    }
    await time('Nobody', '10.0.0.7')
    const ratio = (await time('Nobody', '10.0.0.8')) / (await time('Rowan', '10.0.0.8'))
    expect([ratio > 0.3, ratio < 3]).toEqual([true, true])
  })

  it('signing in again ends the former session of that browser; others are listed and can be ended', async () => {
    const { pool } = shop.services
    const first = await signIn(pool, rowan())
    const again = await signIn(pool, rowan({ browser: first.browser, session: first.token }))
    const other = await signIn(pool, rowan())
    expect(await findStaff(pool, first.token, { by: 'session' })).toBeUndefined()
    const sessions = await readSessions(pool, shop.actor, again.token)
    expect(sessions.filter(({ isThis }) => isThis)).toHaveLength(1)
    for (const { id, isThis } of sessions) if (!isThis) await endSession(pool, shop.actor, id)
    expect(await findStaff(pool, other.token, { by: 'session' })).toBeUndefined()
    expect(await findStaff(pool, again.token, { by: 'session' })).toBeTruthy()
    expect(await codeOf(endSession(pool, shop.actor, 999_999))).toBe('NotFound')
  })

  it('ends when nobody does anything for as long as the shop says; a page that only listens does nothing', async () => {
    const { pool } = shop.services
    const { token } = await signIn(pool, rowan())
    const age = (minutes: number) => pool.query(`update session set used_at = now() - make_interval(mins => $1)`, [minutes])
    await age(239)
    expect(await findStaff(pool, token, { by: 'session' })).toBeTruthy()
    await findStaff(pool, token, { by: 'session', isUse: true })
    expect((await pool.query('select 1 from session where used_at < now() - interval $$1 minute$$')).rows).toHaveLength(
      (await pool.query('select 1 from session')).rows.length - 1,
    )
    await age(241)
    expect(await findStaff(pool, token, { by: 'session' })).toBeUndefined()
  })
})

describe('dropped files', () => {
  const folder = mkdtempSync(join(tmpdir(), 'corvend-upload-'))
  const places = { dataFolder: folder, keysFolder: join(folder, 'keys'), masterKey: randomBytes(32) }
  const partsOf = (id: string) => (existsSync(join(folder, 'blobs', id)) ? readdirSync(join(folder, 'blobs', id)).sort() : [])
  const from = (...parts: string[]) =>
    (async function* () {
      for (const part of parts) yield Buffer.from(part)
    })()

  it('are counted while they come in, kept sealed, and read back as they were', async () => {
    const text = 'BEGIN:VCARD\r\nFN:Quill\r\nEND:VCARD\r\nstray\r\nBEGIN:VCARD\r\nFN:Wort\r\n'
    const upload = await takeUpload(places, from(text.slice(0, 17), text.slice(17)))
    expect(upload).toMatchObject({ kinds: { contacts: { items: 2 } }, others: [], unreadable: 1 })
    expect(partsOf(upload.id)).toEqual(['contacts', 'places'])
    expect(readFileSync(join(folder, 'blobs', upload.id, 'contacts'), 'latin1')).not.toContain('Quill')
    const chunks: Buffer[] = []
    for await (const chunk of openUpload(places, upload.id, 'contacts')) chunks.push(chunk)
    expect(Buffer.concat(chunks).toString()).toBe(text.replace('stray\r\n', ''))
  })

  it('one that comes so slowly that its key was taken for nobody’s on the way opens all the same', async () => {
    const upload = await takeUpload(
      places,
      (async function* () {
        yield Buffer.from('BEGIN:VCARD\r\nFN:Slow\r\n')
        await forgetStrayKeys(places, { olderThanMs: -1000, strayOf: async (holdings) => holdings })
        yield Buffer.from('END:VCARD\r\n')
      })(),
    )
    expect(await textOf(openUpload(places, upload.id, 'contacts'))).toContain('FN:Slow')
  })

  it('a ZIP of cards and a calendar is sorted by what its files say, each kind sealed under a key stream of its own', async () => {
    const calendar =
      'BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nUID:q\r\nDTSTART:20260101\r\nSUMMARY:Quillwort\r\nEND:VEVENT\r\nBEGIN:VTODO\r\nEND:VTODO\r\nEND:VCALENDAR\r\n'
    const card = (name: string) => `BEGIN:VCARD\r\nFN:${name}\r\nEND:VCARD`
    const zip = zipSync({
      'x.txt': Buffer.from(card('Quill')),
      'y/z.bin': Buffer.from(calendar),
      'again.vcf': Buffer.from(card('Wort')),
      'letter.vcf': Buffer.from([68, 0, 1, 2, 3, 255]),
    })
    const upload = await takeUpload(
      places,
      (async function* () {
        for (let at = 0; at < zip.length; at += 50) yield zip.subarray(at, at + 50)
      })(),
    )
    expect(upload).toMatchObject({ kinds: { contacts: { items: 2 }, calendar: { items: 1 } } })
    expect(upload.others.map(({ path, why, n }) => [path, why, n])).toEqual([
      ['y/z.bin', 'not-taken', 1],
      ['letter.vcf', 'not-known', undefined],
    ])
    expect(partsOf(upload.id)).toEqual(['calendar', 'contacts', 'places'])
    for (const name of partsOf(upload.id)) expect(readFileSync(join(folder, 'blobs', upload.id, name), 'latin1')).not.toMatch(/Quill|Wort/)
    expect(await textOf(openUpload(places, upload.id, 'contacts'))).toBe(`${card('Quill')}\r\n${card('Wort')}\r\n`)
    expect(await textOf(openUpload(places, upload.id, 'calendar'))).toContain('SUMMARY:Quillwort')
    // nobody’s row names it: it goes once it has waited long enough
    const services = { pool: shop.services.pool, config: { ...shop.services.config, ...places } }
    expect(await forgetStray(services, 60_000)).toBe(0)
    expect(await forgetStray(services, -1000)).toBeGreaterThan(0)
    expect(partsOf(upload.id)).toEqual([])
    expect(folderOfKeys(places.keysFolder).all()).toEqual([])
  })

  it('those an earlier version kept are moved into blobs, also by a start after one that was killed', async () => {
    const id = randomUUID() as string as HoldingId
    const [key, nonce] = [randomBytes(32), randomBytes(16)]
    keepSecret(places, id, Buffer.concat([key, nonce]))
    const texts = {
      contacts: `${'BEGIN:VCARD\r\nFN:Former\r\nEND:VCARD\r\n'.repeat(20_000)}`,
      calendar: 'BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n',
    }
    const former = (name: string, own: Buffer, text: string) => {
      const cipher = createCipheriv('aes-256-ctr', key, own)
      writeFileSync(join(folder, 'uploads', name), Buffer.concat([cipher.update(text), cipher.final()]))
    }
    mkdirSync(join(folder, 'uploads'))
    former(`${id}.sealed`, nonce, texts.contacts)
    former(
      `${id}.calendar.sealed`,
      hash('sha256', Buffer.concat([nonce, Buffer.from('calendar')]), 'buffer').subarray(0, 16),
      texts.calendar,
    )
    former(`${id}.raw.sealed`, nonce, 'what came in')
    former(`${randomUUID()}.sealed`, nonce, 'nobody has its key')
    // as a start leaves it that was killed in the middle
    mkdirSync(join(folder, 'blobs', id))
    writeFileSync(join(folder, 'blobs', id, 'contacts'), randomBytes(300_000))
    expect(await moveUploads(places)).toBe(2)
    expect(await textOf(openUpload(places, id, 'contacts'))).toBe(texts.contacts)
    expect(await textOf(openUpload(places, id, 'calendar'))).toBe(texts.calendar)
    expect(existsSync(join(folder, 'uploads'))).toBe(false)
    expect(await moveUploads(places)).toBe(0)
  })

  it('a ZIP that is damaged or grows beyond bounds is refused, and leaves nothing behind', async () => {
    const before = readdirSync(join(folder, 'blobs')).length
    const zip = zipSync({ 'a.vcf': Buffer.from('BEGIN:VCARD\r\nEND:VCARD\r\n'.repeat(900)) })
    const bomb = zipSync({ 'a.vcf': Buffer.concat([Buffer.from('BEGIN:VCARD\r\n'), Buffer.alloc(20_000_000)]) })
    for (const bytes of [zip.subarray(0, 60), bomb]) {
      await expect(
        takeUpload(
          places,
          (async function* () {
            for (let at = 0; at < bytes.length; at += 4000) yield bytes.subarray(at, at + 4000)
          })(),
        ),
      ).rejects.toMatchObject({ code: 'ZipRefused' })
    }
    expect(readdirSync(join(folder, 'blobs'))).toHaveLength(before)
  })

  it('that hold nothing anybody takes are refused, and leave nothing behind', async () => {
    const before = readdirSync(join(folder, 'blobs')).length
    await expect(takeUpload(places, from('\0\u0001\u0002hello'))).rejects.toMatchObject({ code: 'FileUnreadable' })
    expect(readdirSync(join(folder, 'blobs'))).toHaveLength(before)
  })
})

describe('the items behind a count', () => {
  const search = {
    kind: 'contacts',
    filter: 'all' as EntryFilter,
    facet: '',
    storage: '',
    reason: '',
    group: '',
    when: '',
    text: '',
    after: null as string | null,
    limit: 60,
  }

  it('come page by page, each once, with totals that are their sums for every facet and storage', async () => {
    const old = { serial: 'IT-O', model: 'Orrin 5', port: 1, people: { seed: 3, count: 300, style: 'traps' as const } }
    const now = { serial: 'IT-N', model: 'Veyra 12', port: 2 }
    await addPhone(shop, old)
    await addPhone(shop, now)
    const number = await bookTicket(shop, old, now)
    const hands = worker(shop)
    await countIn(shop, number)
    hands.kill()
    const read = (change: Partial<typeof search>) =>
      readEntries(shop.services, number, { search: { ...search, ...change }, actor: shop.actor }).then((page) => ({
        ...page,
        total: page.total ?? -1,
      }))

    const keys: string[] = []
    let after: string | null = null
    do {
      const page: Awaited<ReturnType<typeof read>> = await read({ after })
      expect(page.rows.every((row) => row.title === null)).toBe(true)
      keys.push(...page.rows.map((row) => row.key))
      after = page.next
    } while (after)
    expect(keys).toHaveLength(325)
    expect(new Set(keys).size).toBe(325)
    const storages = await Promise.all(['sim', 'phone', 'account'].map((storage) => read({ storage })))
    expect(storages.reduce((sum, page) => sum + page.total, 0)).toBe(325)
    const photos = await read({ facet: 'with-photo', limit: 200 })
    expect(photos.rows).toHaveLength(photos.total)
    expect(photos.rows.every((row) => row.shape.photo === 1)).toBe(true)
    expect((await read({ filter: 'pending', reason: 'groups-dropped' })).total).toBe(1)
    await expect(read({ facet: '__proto__' })).rejects.toMatchObject({ code: 'BadRequest' })
    await expect(read({ text: 'a' })).rejects.toMatchObject({ code: 'ShowingNotAllowed' })

    await show(shop.services, number, { reason: 'choose-items', actor: shop.actor })
    const found = await read({ text: 'NETLOFT' })
    expect(found.total).toBeGreaterThan(0)
    expect(found.rows).toHaveLength(Math.min(60, found.total))
    expect(found.rows.every((row) => row.title !== null)).toBe(true)
    expect((await read({ text: '山本' })).rows.map((row) => row.title)).toEqual(['小雪 山本'])

    await choose(shop.services, number, { kind: 'contacts', body: { choice: 'none', mode: 'add', set: [], slice: null } })
    await choose(shop.services, number, {
      kind: 'contacts',
      body: { choice: 'some', mode: 'add', set: [{ key: 'old-4', isChosen: true }], slice: null },
    })
    expect((await read({ filter: 'pending' })).rows.map((row) => row.key)).toEqual(['old-4'])
    expect((await read({ filter: 'willCarry' })).total + (await read({ filter: 'willChange' })).total).toBe(1)
    // a slice is every item of a shape or a storage, the ones on no page, too
    const slice = (change: object) =>
      choose(shop.services, number, {
        kind: 'contacts',
        body: {
          choice: 'some',
          mode: 'add',
          set: [],
          slice: { facet: '', storage: '', reason: '', group: '', when: '', isChosen: true, ...change },
        },
      })
    await slice({ storage: 'sim' })
    const chosen = async () => (await read({ filter: 'pending' })).total
    const sim = storages[0]!.rows.filter((row) => !['unreadable', 'cannotCross'].includes(row.fate)).length
    expect(await chosen()).toBe(sim + 1)
    await slice({ facet: 'with-photo' })
    expect(await chosen()).toBeGreaterThan(sim + 1)
    await slice({ isChosen: false })
    expect(await chosen()).toBe(0)
    await expect(slice({ facet: 'no-such-shape' })).rejects.toMatchObject({ code: 'BadRequest' })
  })
})
