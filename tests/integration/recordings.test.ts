import { parseBuffer } from 'music-metadata'
import { expect, it } from 'vitest'
import { searchBody } from '#contracts/http/ticket.ts'
import { readFolderRecord } from '#core/formats/folder-listing/index.ts'
import { connectionOver } from '#server/endpoints/makers/practice.ts'
import { putBackToWait, startCheck, takeAway } from '#server/desk/check-off/act.ts'
import { callOff } from '#server/desk/hand-back/act.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readEntries } from '#server/desk/items/entries.ts'
import { addPhone, bookTicket, carry, countIn, expectAgrees, isChecked, useShop, waitFor } from '../setup/ticket.ts'

const shop = useShop({ leaseMs: 500 })

/** Every sound a phone has of a kind, by its name there, as whoever asks the phone is given it. */
async function soundsOn(serial: string, kind: string): Promise<Map<string, Buffer>> {
  const { link } = shop().services.config.station!
  const answer = await fetch(`${link.url}/phones/${serial}/attach`, {
    method: 'POST',
    headers: { authorization: `Bearer ${link.token}`, 'content-type': 'application/json' },
    body: '{}',
  })
  const { connection } = (await answer.json()) as { connection: string }
  const { source } = connectionOver(link, serial, connection)
  const out = new Map<string, Buffer>()
  for await (const { body } of source.list(kind)) {
    const [file] = readFolderRecord(Buffer.from(body, 'base64'))!.files
    const pieces: Uint8Array[] = []
    for await (const piece of source.openFile(kind, file!.x_handle!)) pieces.push(piece)
    out.set(file!.name!, Buffer.concat(pieces))
  }
  return out
}

it('a recording keeps its title and its date where its phone has no place for them: in the file, its sound as it was, proved by reading it there', async () => {
  const old = { serial: 'TO-1', model: 'Orrin 5', port: 1 }
  const now = { serial: 'TN-1', model: 'Veyra 14', port: 2 }
  for (const phone of [old, now]) await addPhone(shop(), phone)
  await shop().hand(`phones/${old.serial}/fill`, { kind: 'recordings', seed: 3, count: 4 })
  const before = await soundsOn(old.serial, 'recordings')
  const number = await bookTicket(shop(), old, now, ['recordings'])
  const counted = await countIn(shop(), number)
  expect(counted.reasons.find(({ code }) => code === 'title-in-file')).toMatchObject({ items: 4 })
  await carry(shop(), number)
  const ticket = await waitFor(shop(), number, isChecked, 'check off')
  await expectAgrees(shop(), ticket, { old: old.serial, new: now.serial }, ['agrees'])
  expect(ticket.ledger[0]).toMatchObject({ fates: { changed: 4, lost: 0 }, short: 0, over: 0, new: { last: 4 } })
  const { rows } = await readEntries(shop().services, number, { search: searchBody.parse({ kind: 'recordings' }), actor: shop().actor })
  expect(rows).toHaveLength(4)
  const there = await soundsOn(now.serial, 'recordings')
  for (const [i, bytes] of [...before.values()].entries()) {
    const title = `Choir practice ${i + 1}`
    const sound = there.get(`${title}.m4a`)!
    const [was, is] = [await parseBuffer(bytes, { mimeType: 'audio/mp4' }), await parseBuffer(sound, { mimeType: 'audio/mp4' })]
    expect(was.common.title).toBeUndefined()
    expect(is.common.title).toBe(title)
    expect(is.common.date).toMatch(/^2026-11-\d\dT/)
    expect(is.format.duration).toBe(was.format.duration)
    // the sound itself lies where it lay
    const at = bytes.indexOf('mdat')
    expect(sound.subarray(at, at + 76).equals(bytes.subarray(at, at + 76))).toBe(true)
  }
  // the same again on the same phone: nothing comes a second time
  const { services, actor } = shop()
  await callOff(services, number, { body: { why: 'done', takeAway: false, typed: number }, actor })
  await handBackAndErase(services, number, number)
  await shop().hand(`phones/${old.serial}/fill`, { kind: 'recordings', seed: 8, count: 1 })
  const again = await bookTicket(shop(), old, now, ['recordings'])
  await countIn(shop(), again)
  await carry(shop(), again)
  const second = await waitFor(shop(), again, isChecked, 'check off')
  expect(second.ledger[0]).toMatchObject({ fates: { changed: 1, alreadyThere: 4 }, new: { last: 5 } })
})

/** Two phones, some recordings, counted in and carried. */
async function carried(mark: string, [from, to]: readonly [string, string], count: number) {
  const old = { serial: `TO-${mark}`, model: from, port: 1 }
  const now = { serial: `TN-${mark}`, model: to, port: 2 }
  for (const phone of [old, now]) {
    await addPhone(shop(), phone)
    await shop()
      .hand(`phones/${phone.serial}/cable-files-on`, {})
      .catch(() => undefined)
  }
  await shop().hand(`phones/${old.serial}/fill`, { kind: 'recordings', seed: 5, count })
  const number = await bookTicket(shop(), old, now, ['recordings'])
  await countIn(shop(), number)
  return { old, now, number }
}
const check = async (number: string) => {
  await startCheck(shop().services, number, shop().actor)
  return waitFor(shop(), number, isChecked, 'check off')
}

it('what a phone made of a recording is lost and left behind; taken away it goes, its file read again, and is never its owner’s change', async () => {
  for (const { serial } of (await shop().hand('phones')).phones) await shop().hand(`phones/${serial}/pull`, {})
  const { now, number } = await carried('A', ['Tamsel M2', 'Tamsel M3'], 3)
  await shop().hand(`phones/${now.serial}/faults`, { faults: [{ point: 'write.record', effect: 'alter', skip: 0, times: 1 }] })
  await carry(shop(), number)
  const altered = await waitFor(shop(), number, isChecked, 'check off')
  expect(altered.ledger[0]).toMatchObject({ verdict: 'differs', fates: { lost: 1 }, new: { leftBehind: 1, last: 3 } })
  const { services, actor } = shop()
  await takeAway(services, number, { kind: 'recordings', actor, body: { changed: true, typed: number } })
  const cleared = await waitFor(shop(), number, ({ run, ledger }) => run === null && ledger[0]!.new.leftBehind === 0, 'what was left')
  expect(cleared.ledger[0]).toMatchObject({ fates: { lost: 1, editedThere: 0 }, new: { last: 2 } })
  await putBackToWait(services, number, { kind: 'recordings', fates: ['lost'] })
  await carry(shop(), number)
  const ticket = await waitFor(shop(), number, (t) => isChecked(t) && t.ledger[0]!.fates.changed === 3, 'the last one')
  expect(ticket.ledger[0]).toMatchObject({ short: 0, over: 0, fates: { lost: 0, editedThere: 0 }, new: { last: 3, leftBehind: 0 } })
  expect((await shop().hand(`phones/${now.serial}/store?kind=recordings`)).count).toBe(3)
})

it('a recording changed on the old phone after its turn is carried again, and its former record goes once the new one is proved by its file', async () => {
  for (const { serial } of (await shop().hand('phones')).phones) await shop().hand(`phones/${serial}/pull`, {})
  const { old, now, number } = await carried('B', ['Orrin 5', 'Orrin 9'], 3)
  await carry(shop(), number)
  await waitFor(shop(), number, isChecked, 'check off')
  const [record] = (await shop().hand(`phones/${old.serial}/store?kind=recordings`)).records
  await shop().hand(`phones/${old.serial}/edit-record`, { id: Number(record.id) })
  expect((await check(number)).ledger[0]).toMatchObject({ fates: { pending: 1 } })
  await carry(shop(), number)
  const ticket = await waitFor(shop(), number, (t) => isChecked(t) && t.ledger[0]!.fates.pending === 0, 'carried again')
  await expectAgrees(shop(), ticket, { new: now.serial }, ['agrees', 'agrees-with-notes'])
  expect(ticket.ledger[0]).toMatchObject({ short: 0, over: 0, new: { last: 3, leftBehind: 0 } })
  expect((await shop().hand(`phones/${now.serial}/store?kind=recordings`)).count).toBe(3)
})
