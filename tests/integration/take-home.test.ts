import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { open } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import type { TicketView } from '#contracts/http/ticket.ts'
import { kindCodes } from '#core/kinds/faces.ts'
import { closes, linesOfSums } from '#core/book/index.ts'
import type { HoldingId } from '#server/base/ids.ts'
import { startCheck } from '#server/desk/check-off/act.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { readCourse } from '#server/desk/course.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readLockers } from '#server/desk/lockers/view.ts'
import { uploadStands } from '#server/endpoints/brought/uploads.ts'
import { readNotTaken, uploadToShow } from '#server/desk/items/not-taken.ts'
import { show } from '#server/desk/items/show.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { lockTakeHome, openTakeHome } from '#server/desk/take-home/act.ts'
import { forgetArchives } from '#server/endpoints/makers/folder.ts'
import { folderOfKeys } from '#server/vault/key-store.ts'
import { blobsOf, chunkBytes } from '#server/vault/blobs.ts'
import { lockersBody } from '#contracts/http/lockers.ts'
import { codeOf } from '../setup/codes.ts'
import { bring } from '../setup/uploads.ts'
import { unopened } from '../setup/opens.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, figuresOf, hasFiles, isChecked, useShop, waitFor } from '../setup/ticket.ts'

/** Debian’s own, by the name this version of it has. */
const sevenZip = ['7zz', '7z'].find((name) => existsSync(`/usr/bin/${name}`))!
const shop = useShop({ leaseMs: 500 })
const folder = mkdtempSync(join(tmpdir(), 'corvend-home-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

let n = 0
/** A phone with every trap there is, carried into files. */
async function home({ password, count = 40, kinds = [...kindCodes] }: { password?: string; count?: number; kinds?: string[] } = {}) {
  const old = { serial: `TH-${++n}`, model: 'Orrin 7', port: 1 }
  await addPhone(shop(), old)
  for (const kind of kinds)
    await shop().hand(`phones/${old.serial}/fill`, {
      kind,
      seed: 11 + n,
      count: hasFiles(kind) ? 6 : count,
      style: 'traps',
    })
  const number = await bookTicket(shop(), old, { home: password === undefined ? {} : { password } }, kinds)
  await countIn(shop(), number)
  await carry(shop(), number)
  const ticket = await waitFor(shop(), number, isChecked, 'check off')
  return { number, ticket, pull: () => shop().hand(`phones/${old.serial}`, undefined, 'DELETE') }
}

/** Fetched as a browser fetches it, and laid down as a file. */
async function fetched(number: string): Promise<string> {
  const { bytes } = await openTakeHome(shop().services, number, { actor: shop().actor, isBegun: false })
  const chunks: Buffer[] = []
  for await (const chunk of bytes.read({ from: 0, to: bytes.sizeBytes })) chunks.push(chunk)
  const path = join(folder, `${number}.zip`)
  writeFileSync(path, Buffer.concat(chunks))
  expect(statSync(path).size).toBe(bytes.sizeBytes)
  return path
}

async function end(number: string): Promise<void> {
  const { services, actor } = shop()
  await callOff(services, number, { body: { why: 'done', takeAway: false, typed: number }, actor })
  await handBackAndErase(services, number, number)
}

const holdingOf = async (number: string) =>
  (
    await shop().services.pool.query<{ holding: HoldingId; blob: string; copy: number }>(
      `select c.holding_id as holding, a.blob, c.id as copy from ticket t join ticket_phone p on p.ticket_id = t.id and p.side = 'new'
         join locker_copy c on c.id = p.copy_id left join archive a on a.copy_id = c.id where t.number = $1`,
      [number],
    )
  ).rows[0]!

async function expectAgreed({ ledger, number }: TicketView): Promise<void> {
  for (const row of ledger) {
    expect([row.kind, row.verdict, closes(linesOfSums(figuresOf(row)))]).toEqual([row.kind, expect.stringMatching(/^agrees/), true])
    expect(await unopened(shop(), number, row)).toEqual([])
  }
}

/** What Python’s own readers find in an archive: nothing of it is ours. */
const python = `
import sys, zipfile, json, posixpath, urllib.parse, xml.etree.ElementTree as tree, hashlib, mailbox, csv, io, os, datetime
z = zipfile.ZipFile(sys.argv[1])
assert z.testzip() is None
names = z.namelist()
assert len(names) == len(set(n.lower() for n in names)), 'names a file system may not tell apart'
manifest = json.loads(z.read('Manifest.json'))
listed = {f['path']: f for f in manifest['files']}
assert set(listed) | {'Manifest.json'} == set(names), set(names) ^ set(listed)
for path, f in listed.items():
    data = z.read(path)
    assert len(data) == f['bytes'] and hashlib.sha256(data).hexdigest() == f['sha256'], path
    assert not os.path.isabs(path) and '..' not in path.split('/'), path
    for part in path.split('/'):
        assert not set('<>:"|?*\\\\') & set(part) and part == part.strip(' .'), path
out = {k: v['items'] for k, v in manifest['kinds'].items()}
cards = z.read('Contacts.vcf').decode()
out['cards'] = cards.count('BEGIN:VCARD')
out['events'] = z.read('Calendar.ics').decode().count('BEGIN:VCALENDAR')
open(sys.argv[2], 'wb').write(z.read('Messages.mbox'))
box = mailbox.mbox(sys.argv[2])
out['mails'] = len(box)
out['dated'] = sum(1 for m in box if m['Date'] and m['From'])
rows = list(csv.reader(io.StringIO(z.read('Calls.csv').decode('utf-8-sig'))))
out['rows'] = len(rows) - 1
assert all(not (cell and cell[0] in '=@') for row in rows for cell in row), 'a formula'
page = z.read('Open me.html').decode()
out['scripts'] = page.lower().count('<script') + page.lower().count('javascript:') + page.lower().count(' onerror=')
out['pictures'] = sum(1 for n in names if n.startswith('Photos/'))
out['years'] = sorted(set(i.date_time[0] for i in z.infolist() if i.filename.startswith('Photos/')))[0]
out['lists'] = out['tracks'] = 0
ns = '{http://xspf.org/ns/0/}'
for path in names:
    if not path.startswith('Playlists/'): continue
    out['lists'] += 1
    for track in tree.fromstring(z.read(path)).iter(ns + 'track'):
        where = track.find(ns + 'location')
        if where is None: continue
        file = posixpath.normpath(posixpath.join('Playlists', urllib.parse.unquote(where.text)))
        digest = track.find(ns + 'identifier').text.split(';')[1]
        import base64
        assert base64.urlsafe_b64encode(hashlib.sha256(z.read(file)).digest()).decode().rstrip('=') == digest, file
        out['tracks'] += 1
print(json.dumps(out))
`

describe('taken home as files', () => {
  it('every kind with every trap, agreed by reading the archive; Python’s own readers find the same in it', async () => {
    const { number, ticket, pull } = await home()
    await expectAgreed(ticket)
    const { archive } = ticket.new
    expect(archive).toMatchObject({ isThere: true, hasPassword: false, takenAt: null })
    const path = await fetched(number)
    const script = join(folder, 'read.py')
    writeFileSync(script, python)
    const found = JSON.parse(execFileSync('/usr/bin/python3', [script, path, join(folder, 'box')], { encoding: 'utf8' })) as Record<
      string,
      number
    >
    for (const row of ticket.ledger) expect([row.kind, found[row.kind]]).toEqual([row.kind, row.new.last])
    const last = Object.fromEntries(ticket.ledger.map((row) => [row.kind, row.new.last]))
    expect(found).toMatchObject({
      cards: last.contacts,
      events: last.calendar,
      mails: last.messages,
      dated: last.messages,
      // each list once more by itself, its tracks where the archive has them
      lists: last.playlists,
      tracks: expect.toSatisfy((tracks: number) => tracks > 20),
      rows: last.calls,
      scripts: 0,
    })
    expect(found.pictures).toBeGreaterThanOrEqual(last.photos!)
    expect(found.years).toBeLessThan(2026)
    expect(execFileSync(sevenZip, ['t', path], { encoding: 'utf8' })).toContain('Everything is Ok')
    // brought back, everything that was taken home is there again, and goes onto a phone of another platform
    const back = await bring(shop().services, { 'home.zip': readFileSync(path) })
    // what could not be read on the phone went along as it was, and is counted as that again
    const sum = (counts: Record<string, number | null>) => Object.values(counts).reduce<number>((all, n) => all + n!, 0)
    expect([back.state, Object.keys(back.items).sort()]).toEqual(['sorted', Object.keys(last).sort()])
    const readable = sum(back.items) - back.unreadable
    expect(readable).toBeGreaterThanOrEqual(sum(last))
    for (const [kind, n] of Object.entries(last)) expect(back.items[kind]).toBeGreaterThanOrEqual(n!)
    expect(back.others.filter(({ why }) => why !== 'beside' && why !== 'not-known')).toEqual([])
    const now = { serial: `TB-${n}`, model: 'Veyra 14', port: 2, version: '18' }
    await addPhone(shop(), now)
    const again = await bookTicket(shop(), { upload: back.upload }, now, ['contacts', 'calendar', 'photos'])
    await countIn(shop(), again)
    await carry(shop(), again)
    await expectAgrees(shop(), await waitFor(shop(), again, isChecked, 'put back'), { new: now.serial })
    await end(again)
    // fetched, it is said; and no list of lockers knows of it
    expect((await readTicket(shop().services, number, shop().actor)).new.archive!.takenAt).not.toBeNull()
    expect((await readLockers(shop().services, lockersBody.parse({ find: number }))).copies).toEqual([])
    await end(number)
    expect(await codeOf(openTakeHome(shop().services, number, { actor: shop().actor, isBegun: false }))).toBe('TicketErased')
    await pull()
  })

  it('locked with a password, it opens by that alone; another is made anew and read back; its hour ends, and so does the ticket', async () => {
    const { services, actor } = shop()
    const { number, ticket, pull } = await home({ password: 'Lantern – 12', count: 20, kinds: ['contacts', 'photos'] })
    await expectAgreed(ticket)
    const path = await fetched(number)
    const seven = (password: string) => {
      try {
        return execFileSync(sevenZip, ['t', `-p${password}`, path], { encoding: 'utf8', stdio: 'pipe' })
      } catch (error) {
        return String((error as { stderr: string }).stderr)
      }
    }
    expect(seven('Lantern – 12')).toContain('Everything is Ok')
    expect(seven('lantern – 12')).toContain('Wrong password')
    expect(readFileSync(path).includes('BEGIN:VCARD')).toBe(false)
    expect(execFileSync(sevenZip, ['l', '-slt', '-pLantern – 12', path], { encoding: 'utf8' })).toContain('AES-256')

    const before = await holdingOf(number)
    await lockTakeHome(services, number, { password: null, actor })
    expect(await codeOf(openTakeHome(services, number, { actor, isBegun: false }))).toBe('ArchiveNotThere')
    const again = await waitFor(shop(), number, (view) => isChecked(view) && view.new.archive?.isThere === true, 'made anew')
    expect(again.new.archive).toMatchObject({ hasPassword: false, takenAt: null })
    await expectAgreed(again)
    const after = await holdingOf(number)
    expect(after.blob).not.toBe(before.blob)
    expect(await blobsOf(services.config).names(after.holding)).toEqual([after.blob])

    // its hour is over: the blob goes, the ticket stays, and a check makes it anew
    await services.pool.query(`update archive set keep_until = now() - interval '1 minute' where copy_id = $1`, [after.copy])
    expect(await forgetArchives(services)).toBe(1)
    expect(await blobsOf(services.config).names(after.holding)).toEqual([])
    expect(await codeOf(openTakeHome(services, number, { actor, isBegun: false }))).toBe('ArchiveNotThere')
    await startCheck(services, number, actor)
    await expectAgreed(await waitFor(shop(), number, (view) => isChecked(view) && view.new.archive?.isThere === true, 'made once more'))
    await end(number)
    expect(await blobsOf(services.config).names(after.holding)).toEqual([])
    expect(folderOfKeys(services.config.keysFolder).find(after.holding)).toBeUndefined()
    await pull()
  })

  it('an archive that was altered on the disk never agrees: a check makes another, and a file nobody can read is named', async () => {
    const { services, actor } = shop()
    const { number, ticket, pull } = await home({ count: 12, kinds: ['contacts', 'photos'] })
    await expectAgreed(ticket)
    const { holding, blob, copy } = await holdingOf(number)
    const whole = join(services.config.dataFolder, 'blobs', holding, blob)
    const file = await open(whole, 'r+')
    await file.write(Buffer.alloc(64, 7), 0, 64, Math.min(chunkBytes, statSync(whole).size - 100))
    await file.close()
    await startCheck(services, number, actor)
    // it is said, and made anew from what was written
    const again = await waitFor(
      shop(),
      number,
      (view) => isChecked(view) && view.new.archive?.isThere === true && view.new.archive.madeAt !== ticket.new.archive!.madeAt,
      'made anew',
    )
    await expectAgreed(again)
    const { acts } = await readCourse(services, number)
    expect(acts.some(({ what, why }) => what === 'waits' && why === 'CopyDamaged')).toBe(true)

    // a file of what was written that nobody can read any more: one item, named, and all others agree
    const { rows } = await services.pool.query<{ holding: HoldingId; blob: string }>(
      `select l.holding_id as holding, b.blob from locker_copy c join locker l on l.id = c.locker_id join locker_body b on b.locker_id = l.id
        where c.id = $1 and b.blob is not null order by b.id limit 1`,
      [copy],
    )
    const bad = join(services.config.dataFolder, 'blobs', rows[0]!.holding, rows[0]!.blob)
    writeFileSync(bad, Buffer.concat([readFileSync(bad).subarray(0, -9), Buffer.alloc(9)]))
    await lockTakeHome(services, number, { password: 'Lantern 12', actor })
    const short = await waitFor(shop(), number, (view) => isChecked(view) && view.new.archive?.hasPassword === true, 'without it')
    const row = short.ledger.find(({ kind }) => kind === 'photos')!
    expect(row.verdict).toBe('differs')
    expect(row.fates.lost).toBeGreaterThan(0)
    expect(closes(linesOfSums(figuresOf(row)))).toBe(true)
    expect(short.ledger.find(({ kind }) => kind === 'contacts')!.verdict).toMatch(/^agrees/)
    await end(number)
    await pull()
  })
})

describe('what was brought and not taken', () => {
  it('stands on its ticket with size and why, masked until names are shown, and goes with it', async () => {
    const { services, actor } = shop()
    const card = Buffer.from('BEGIN:VCARD\r\nVERSION:3.0\r\nN:Brought;Ada;;;\r\nFN:Ada Brought\r\nEND:VCARD\r\n')
    const { upload } = await bring(services, {
      'people.vcf': card,
      'again.vcf': card,
      'thing of Ada.bin': Buffer.from([0, 1, 2, 3, 4, 5, 6, 7]),
    })
    const asBrought = async () => uploadToShow(await uploadStands(services, upload))
    expect((await asBrought()).others.map(({ path }) => path)).toEqual(['again.vcf', 'thing of Ada.bin'])
    const number = await bookTicket(shop(), { upload }, { keepUntil: new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10) })
    expect(await asBrought()).toMatchObject({ others: [], othersInAll: 2 })
    expect(await readNotTaken(services, number, actor)).toEqual({
      total: 2,
      isShowing: false,
      rows: [
        { path: null, sizeBytes: card.length, why: 'same-as', n: null },
        { path: null, sizeBytes: 8, why: 'not-known', n: null },
      ],
    })
    await show(services, number, { reason: 'customer-asks', actor })
    expect((await readNotTaken(services, number, actor)).rows.map(({ path }) => path)).toEqual(['again.vcf', 'thing of Ada.bin'])
    await end(number)
    expect(await codeOf(readNotTaken(services, number, actor))).toBe('TicketErased')
  })
})
