import { describe, expect, it } from 'vitest'
import { giveApp, takeApp, type StoredApp } from '../../../standins/kinds/apps/records.ts'
import { candidatesFor, catalogue } from '../../../standins/catalogue/apps.ts'
import { findModel } from '../../phones/models.ts'
import type { ReadTools } from '../kind.ts'
import { canInstall, findCounterpart } from './counterpart.ts'
import { apps, type Candidate, type Known } from './index.ts'

const tools = {} as ReadTools
const ios = findModel({ maker: 'Veyra', model: 'Veyra 12', platform: 'ios' })
const android = findModel({ maker: 'Orrin', model: 'Orrin 9', platform: 'android' })
const candidate = (change: Partial<Candidate> = {}): Candidate => ({
  id: 'x',
  name: 'Tide Watch',
  maker: 'Netloft',
  use: 'weather',
  priceCents: 0,
  regions: [],
  minVersion: 15,
  sizeBytes: 1,
  ...change,
})
const known = (candidates: Candidate[], change: Partial<Known> = {}): Known => ({
  app: candidate({ id: 'own' }),
  candidates,
  hasWebPage: false,
  region: 'GB',
  version: 18,
  ...change,
})
const stored: StoredApp = {
  bundle: 'org.example.tide',
  name: 'Tide’s <Watch> & more',
  version: '1.4',
  use: 'weather',
  package: { handle: 'p', size: 9 },
  data: { handle: 'd', size: 5 },
  dataStays: false,
}
const read = (bytes: Uint8Array) => {
  const result = apps.read(bytes, tools)
  if (!result.ok) throw new Error(result.code)
  return result.item
}

describe('what stands in for an app on the other platform', () => {
  it.each<[string, Candidate[], Partial<Known>, object]>([
    [
      'the same maker’s under the same name goes first, even paid',
      [candidate({ id: 'b', maker: 'Other' }), candidate({ id: 'a', priceCents: 299 })],
      {},
      { how: 'same-maker', id: 'a', notes: ['paid-again'] },
    ],
    ['spelling of a name does not matter', [candidate({ id: 'a', name: 'tide-watch' })], {}, { how: 'same-maker', id: 'a' }],
    [
      'else one of equal use: the same maker’s, then free before paid, then by name',
      [
        candidate({ id: 'c', name: 'C', maker: 'M', priceCents: 5 }),
        candidate({ id: 'b', name: 'B', maker: 'M' }),
        candidate({ id: 'a', name: 'A', maker: 'M' }),
      ],
      {},
      { how: 'equal-use', id: 'a' },
    ],
    [
      'one that can’t be installed here is no equal use',
      [candidate({ id: 'a', name: 'A', regions: ['DE'] }), candidate({ id: 'b', name: 'B', minVersion: 19 })],
      {},
      { how: 'none', id: undefined },
    ],
    [
      'the same maker’s elsewhere is said, with why',
      [candidate({ id: 'a', regions: ['DE'], minVersion: 19 })],
      {},
      { how: 'same-maker', id: 'a', notes: ['other-region', 'needs-newer'] },
    ],
    ['a web page where there is no app', [], { hasWebPage: true }, { how: 'web', id: undefined }],
    [
      'the shop’s word goes before all',
      [candidate({ id: 'a' }), candidate({ id: 'b', name: 'B' })],
      { chosen: 'b' },
      { how: 'equal-use', id: 'b', isShops: true },
    ],
    ['the shop’s word may be none', [candidate({ id: 'a' })], { chosen: null }, { how: 'none', id: undefined, isShops: true }],
  ])('%s', (_, candidates, change, expected) => {
    const { how, app, notes, isShops } = findCounterpart({ name: 'Tide Watch', known: known(candidates, change) })
    expect({ how, id: app?.id, notes, isShops }).toMatchObject(expected)
  })
  it('is the same each time it is asked, for every app of the catalogue, and always one that was offered', () => {
    for (const one of catalogue().apps.filter((app) => app.platform === 'android')) {
      const { app, candidates, hasWebPage } = candidatesFor(one.id, 'android', 'ios')
      const asked = () => findCounterpart({ name: one.name, known: { app, candidates, hasWebPage, region: 'GB', version: 18 } })
      expect(asked()).toEqual(asked())
      const { how, app: found, notes } = asked()
      if (found) expect(candidates).toContainEqual(found)
      expect(found === undefined).toBe(how === 'web' || how === 'none')
      if (how === 'equal-use') expect(canInstall(found!, { region: 'GB', version: 18 })).toBe(true)
      if (how === 'equal-use') expect(notes.filter((note) => note !== 'paid-again')).toEqual([])
    }
    expect(catalogue().apps.length).toBeGreaterThan(270)
  })
})

describe('apps on the line', () => {
  it('lines and property list say the same of an app', () => {
    const [a, b] = [read(giveApp(stored, 'lines')), read(giveApp(stored, 'plist'))]
    expect([a.id, a.version, a.data?.handle]).toEqual([b.id, b.version, b.data?.handle])
    expect(b.name).toBe('Tide’s <Watch> & more')
    expect(a.package).toMatchObject({ handle: 'p', sizeBytes: 9 })
  })
  it('what was found and what is known is noted, and nothing else changes', () => {
    for (const way of ['lines', 'plist'] as const) {
      const bytes = apps.noteKnown!(
        apps.noteFiles!(
          giveApp(stored, way),
          new Map([
            ['d', { digest: 'dd', sizeBytes: 5 }],
            ['p', { digest: 'pp', sizeBytes: 9 }],
          ]),
        ),
        known([candidate({ name: 'A <b> & c' })]),
      )
      const app = read(bytes)
      expect(app.data?.digest).toBe('dd')
      expect(app.known?.candidates[0]!.name).toBe('A <b> & c')
      expect(apps.atoms(app, tools)).toEqual(['app\u001forg.example.tide', 'data\u001fdd'])
    }
  })
  it.each([
    ['empty', ''],
    ['another listing', 'activity: a'],
    ['a list without an identifier', '<plist version="1.0"><dict></dict></plist>'],
  ])('%s is one unreadable item', (_, text) => {
    expect(apps.read(Buffer.from(text), tools)).toEqual({ ok: false, code: 'no-app' })
  })
  it('like to like: the package where the platform takes it, the phone’s own store where it does not', () => {
    const changed = apps.change(read(giveApp({ ...stored, data: null, dataStays: true }, 'lines')), android)
    expect(changed).toMatchObject({ changes: [{ code: 'app-data-stays', loss: true }] })
    if ('cannot' in changed) throw new Error(changed.cannot)
    expect(takeApp(Buffer.from(apps.write(changed.item, android)), 'lines')).toMatchObject({
      bundle: 'org.example.tide',
      package: { handle: 'p' },
    })
    const real = catalogue().apps.find((app) => app.platform === 'ios')!
    const toIos = apps.change(read(giveApp({ ...stored, bundle: real.id, package: null }, 'plist')), ios)
    if ('cannot' in toIos) throw new Error(toIos.cannot)
    expect(takeApp(Buffer.from(apps.write(toIos.item, ios)), 'plist')).toMatchObject({ bundle: real.id, data: { handle: 'd' } })
  })
  it.each<[string, Known, string]>([
    ['nothing like it', known([]), 'no-counterpart'],
    ['a page in a browser', known([], { hasWebPage: true }), 'web-page-only'],
    ['not offered in this region', known([candidate({ regions: ['DE'] })]), 'other-region'],
    ['a newer version is needed', known([candidate({ minVersion: 19 })]), 'needs-newer'],
  ])('across platforms, %s can’t cross and says why', (_, what, rule) => {
    expect(apps.change(read(apps.noteKnown!(giveApp(stored, 'lines'), what)), ios)).toEqual({ cannot: rule })
  })
  it('across platforms a counterpart is made by hand, and proved by its own name alone', () => {
    const changed = apps.change(read(apps.noteKnown!(giveApp(stored, 'lines'), known([candidate({ id: 'there' })]))), ios)
    if ('cannot' in changed) throw new Error(changed.cannot)
    expect(changed.changes.every(({ code }) => apps.byHand!.includes(code))).toBe(true)
    expect(apps.atoms(changed.item, tools)).toEqual(['app\u001fthere'])
    expect(apps.atoms(read(giveApp({ ...stored, bundle: 'there', data: null, dataStays: true }, 'plist')), tools)).toEqual([
      'app\u001fthere',
    ])
  })
  it('tied ones are known by what they are for', () => {
    expect(read(giveApp({ ...stored, use: 'bank' }, 'lines')).tied).toBe('bank')
    expect(apps.shape(read(giveApp({ ...stored, use: 'codes' }, 'plist')))).toMatchObject({ tied: 1, codes: 1 })
    expect(read(giveApp(stored, 'lines')).tied).toBeUndefined()
  })
})
