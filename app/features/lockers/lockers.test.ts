// @vitest-environment happy-dom
import { describe, expect, it } from 'vitest'
import type { CopyView } from '#contracts/http/lockers.ts'
import { eachAnew, show } from '../../../tests/setup/mount.ts'
import { forecast, noFates, phone, row, run, ticket } from '../../../tests/setup/view.ts'
import LockerPick from '../book-in/LockerPick.vue'
import CloseDialog from './CloseDialog.vue'
import CopyRow from './CopyRow.vue'
import DestroyDialog from './DestroyDialog.vue'
import LookBoard from './LookBoard.vue'

eachAnew()
/** A dialog stands there a moment after it is opened. */
const settle = () => new Promise((resolve) => setTimeout(resolve, 20))
const now = Date.UTC(2026, 10, 27, 12)
const copy = (change: Partial<CopyView> = {}): CopyView => ({
  id: 7,
  customer: 'I. H.',
  ticket: 'T-0400',
  askedBy: 'Rowan',
  phone: { maker: 'Orrin', model: 'Orrin 5', platform: 'android', version: '13' },
  isClosed: false,
  madeAt: '2026-11-20T10:00:00.000Z',
  asOf: '2026-11-20T10:20:00.000Z',
  keepUntil: '2026-12-28T00:00:00.000Z',
  kinds: [
    {
      kind: 'contacts',
      items: 30,
      bytes: 3000,
      savedBytes: 0,
      unread: 2,
      fates: { carried: 30, unreadable: 3, notChosen: 1 },
      whys: [{ fate: 'unreadable', codes: ['storage-error'], items: 2 }],
    },
    { kind: 'calls', items: 12, bytes: 900, savedBytes: 100, unread: 0, fates: { carried: 12, lost: 1 }, whys: [] },
  ],
  items: 42,
  bytes: 3900,
  savedBytes: 100,
  destroyed: null,
  ...change,
})

describe('a copy on the Lockers screen', () => {
  const row = (change: Partial<CopyView> = {}) => show(CopyRow, { copy: copy(change), zone: 'Europe/London', now })
  it('says what is short against its phone: what was asked for and is not in it, never what was left behind', () => {
    expect(row().text()).toContain('4 short then')
    expect(row({ kinds: copy().kinds.map((kind) => ({ ...kind, fates: { carried: kind.items, notChosen: 5 } })) }).text()).toContain(
      'nothing short',
    )
  })
  it('is kept to the end of its last day, and says so when that is near', () => {
    expect(row().text()).toContain('27 December 2026')
    expect(row().text()).not.toContain('ends')
    expect(row({ keepUntil: '2026-11-29T00:00:00.000Z' }).text()).toContain('28 November 2026, ends tomorrow')
    expect(row({ keepUntil: '2026-11-28T00:00:00.000Z' }).text()).toContain('ends today')
  })
  it('opens to its kinds, whose sum it is; each count leads to its items', async () => {
    const shown = row()
    await shown.press('42 items')
    expect(shown.text()).toMatch(/All ?42/)
    await shown.press('30 contacts of the copy')
    expect(shown.emitted('look')).toEqual([['contacts']])
  })
  it('what is not in it opens to why, in lines whose sum it is, also when its items are gone with the ticket', async () => {
    const shown = row()
    await shown.press('42 items')
    await shown.press('3 Unreadable: Contacts')
    expect(shown.text()).toMatch(/Unreadable: Contacts.*storage.*2.*no reason of its own ?1.*All ?3/)
    expect(shown.text()).toContain('Kept in the copy all the same, as the phone gave them: 2.')
    await shown.press('3 Unreadable: Contacts')
    expect(shown.text()).not.toContain('no reason of its own')
    await shown.press('30 Carried: Contacts')
    expect(shown.emitted('look')).toEqual([['contacts']])
  })
  it('that its owner closed can’t be looked into; one that is destroyed says when and by which rule, and nothing can be pressed', async () => {
    expect(row({ isClosed: true }).buttons()).toEqual(['42 items', '4 short then', 'Keep until… copy 7', 'Destroy… copy 7'])
    const gone = row({ customer: null, destroyed: { at: '2026-11-26T09:00:00.000Z', how: 'date', why: null, by: null } })
    expect(gone.text()).toContain('Destroyed on 26 November 2026: its date was over')
    expect(gone.buttons()).toEqual(['42 items', '4 short then'])
    await gone.press('4 short then')
    // what is in it is gone; why something was not in it is not
    expect(gone.buttons().sort()).toEqual(['1 Lost: Calls', '1 Not chosen: Contacts', '3 Unreadable: Contacts', '4 short then', '42 items'])
  })
})

describe('what is done with a copy', () => {
  it('is destroyed only with its number typed', async () => {
    const shown = show(DestroyDialog, { copy: copy() })
    await settle()
    expect(shown.barred()).toContain('Destroy it now')
    await shown.type(/^Type 7/, '7')
    await shown.press('Destroy it now')
    expect(shown.emitted('send')).toEqual([[{ why: 'customer-asked', typed: '7' }]])
  })
  it('is closed by a passphrase of eight characters, typed twice alike', async () => {
    const shown = show(CloseDialog, { copy: copy() })
    await settle()
    expect(shown.text()).toContain('what is in the copy is lost')
    await shown.type(/^Passphrase/, 'short')
    await shown.type(/^Once more/, 'short')
    expect(shown.barred()).toContain('Close it')
    await shown.type(/^Passphrase/, 'tide and lantern')
    await shown.type(/^Once more/, 'tide and Lantern')
    expect(shown.text()).toContain('not the same')
    await shown.type(/^Once more/, 'tide and lantern')
    await shown.press('Close it')
    expect(shown.emitted('send')).toEqual([['tide and lantern']])
  })
})

describe('a copy at Book in', () => {
  it('is made with a day until which it is kept, and let go again', async () => {
    const shown = show(LockerPick, { side: 'new', copies: [], modelValue: null })
    await shown.tick(/keep a copy in a locker/)
    const [[choice]] = shown.emitted('update:modelValue') as [[{ place: string; keepUntil: string }]]
    expect(choice.place).toBe('locker')
    expect(Date.parse(choice.keepUntil) - Date.now()).toBeGreaterThan(28 * 86_400_000)
  })
  it('is put back by its number; one its owner closed asks for the passphrase', async () => {
    const shown = show(LockerPick, { side: 'old', copies: [copy(), copy({ id: 8, isClosed: true, customer: null })], modelValue: null })
    expect(shown.text()).toContain('7: I. H., Orrin 5 as of 20 Nov 2026, 42 items')
    await shown.wrapper.find('select').setValue('8')
    const [[choice]] = shown.emitted('update:modelValue') as [[{ copy: number; isClosed: boolean; maker: string }]]
    expect(choice).toMatchObject({ place: 'locker', copy: 8, isClosed: true, maker: 'Orrin', serial: null })
    const asked = show(LockerPick, { side: 'old', copies: [copy({ id: 8, isClosed: true })], modelValue: choice })
    await asked.type(/passphrase/, 'tide and lantern')
    expect(asked.emitted('update:modelValue').at(-1)).toEqual([{ ...choice, passphrase: 'tide and lantern' }])
    expect(show(LockerPick, { side: 'old', copies: [], modelValue: null }).text()).toBe('')
  })
})

it('a look shows what the copy holds; its counts open, and its sum is theirs', async () => {
  const old = {
    ...phone('old'),
    place: 'locker' as const,
    copy: { id: 7, asOf: '2026-11-20T10:20:00.000Z', keepUntil: '', shortThen: 3, isDestroyed: false },
  }
  const shown = show(LookBoard, { ticket: ticket({ isLook: true, old, new: { ...phone('new'), place: 'nothing' }, run: null }), busy: '' })
  expect(shown.text()).toContain('3 short then')
  const [first] = shown.buttons().filter((name) => name.endsWith('In the copy'))
  await shown.press(first!)
  expect(shown.emitted('open')).toHaveLength(1)
  await shown.press('Close the look')
  expect((shown.emitted('act') as [string][])[0]![0]).toBe('close-look')
})

it('a comparison says nothing of what is only in one until both are read, and then what each side has beyond the other', () => {
  const copyAt = (id: number) => ({
    id,
    asOf: '2026-11-20T10:20:00.000Z',
    keepUntil: '2026-12-01T00:00:00.000Z',
    shortThen: 0,
    isDestroyed: false,
  })
  const sides = {
    old: { ...phone('old'), place: 'locker' as const, copy: copyAt(7) },
    new: { ...phone('new'), place: 'locker' as const, copy: copyAt(8) },
  }
  const contacts = row({
    kind: 'contacts',
    old: { ...row().old, read: 20 },
    fates: { ...noFates, pending: 20 },
    new: { ...row().new, first: 18 },
  })
  const reading = show(LookBoard, {
    ticket: ticket({ isLook: true, ...sides, ledger: [contacts], forecasts: [], run: run({ type: 'count-in' }) }),
    busy: '',
  })
  expect(reading.text()).not.toMatch(/ 0 |-18/)
  expect(reading.buttons().filter((name) => /Only in/.test(name))).toEqual([])
  const counted = forecast({ kind: 'contacts' })
  const both = show(LookBoard, {
    ticket: ticket({
      isLook: true,
      ...sides,
      ledger: [contacts],
      forecasts: [{ ...counted, counts: { ...counted.counts, alreadyThere: 15 } }],
      run: null,
    }),
    busy: '',
  })
  expect(both.buttons().filter((name) => name.includes('contacts'))).toEqual([
    '20 contacts: In copy 7',
    '5 contacts: Only in copy 7',
    '15 contacts: In both',
    '3 contacts: Only in copy 8',
    '18 contacts: In copy 8',
  ])
})
