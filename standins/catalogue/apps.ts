import type { CatalogueApp } from '#contracts/link/catalogue.ts'
import { numbers } from '../demo/draw.ts'

const makers = [
  'Saltmere Labs',
  'Tidewater Works',
  'Gull & Partners',
  'Northlight',
  'Netloft',
  'Harbour Union',
  'Quayside Games',
  'Bee & Bloom',
  'Penrose Studio',
  'Lantern House',
  'Brackwater',
  'Moorcock & Sons',
]
const uses: Readonly<Record<string, readonly string[]>> = {
  weather: ['Tide Watch', 'Fog Horn', 'Barometer', 'Cloud Diary', 'Wind Rose'],
  notes: ['Slate Notes', 'Log Book', 'Margin', 'Paper Boat'],
  music: ['Choir Desk', 'Reed', 'Metronome Plus', 'Shanty Box', 'Loop Pedal'],
  photo: ['Darkroom', 'Frame It', 'Collage Quay', 'Retouch'],
  maps: ['Chart Table', 'Footpaths', 'Harbour Pilot', 'Rail Map'],
  travel: ['Ferry Times', 'Berth', 'Two Tickets', 'Pack List'],
  health: ['Step Log', 'Pill Minder', 'Rest Easy', 'Stretch'],
  food: ['Galley', 'Bread Clock', 'Market List', 'Supper Club'],
  games: ['Knots', 'Lighthouse Run', 'Bee Line', 'Word Tide', 'Cargo', 'Regatta 3', 'Dominoes'],
  reading: ['Shelf', 'Long Read', 'Periodical', 'Library Card'],
  news: ['Saltmere Post', 'Morning Sheet', 'Evening Sheet'],
  shopping: ['Stallholder', 'Second Hand', 'Parcel Track', 'Receipts'],
  fitness: ['Row', 'Hill Repeat', 'Lap Counter'],
  garden: ['Hive Book', 'Sow & Grow', 'Plant Name'],
  learning: ['Phrase a Day', 'Sums', 'Semaphore', 'Periodic'],
  tools: ['Level', 'Torch', 'Unit Lamp', 'Scanner', 'Keypad Calc'],
}
const tied: Readonly<Record<'bank' | 'codes' | 'wallet' | 'chat', readonly string[]>> = {
  bank: ['Saltmere Savings', 'Harbour Bank', 'Ferrymen’s Mutual', 'Quay Credit'],
  codes: ['Second Key', 'Code Locker', 'Sign-in Codes'],
  wallet: ['Purse', 'Tap & Go Pass', 'Ticket Wallet'],
  chat: ['Hail', 'Semaphore Chat', 'Ship to Shore', 'Banter'],
}

interface Made {
  readonly apps: readonly CatalogueApp[]
  readonly web: ReadonlySet<string>
}

let made: Made | undefined

/** Some 300 apps of both platforms, the same each time. */
export function catalogue(): Made {
  if (made) return made
  const next = numbers(2026)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const apps: CatalogueApp[] = []
  const web = new Set<string>()
  const slug = (text: string) => text.toLowerCase().replace(/[^a-z0-9]+/g, '')
  const add = (name: string, use: string, tiedTo: CatalogueApp['tied'], n: number) => {
    const maker = pick(makers)
    const base = {
      name: n === 0 ? name : `${name} ${['', 'Lite', 'Pro'][n]}`,
      maker,
      use,
      tied: tiedTo,
      sizeBytes: 4_000 + Math.floor(next() * 40_000),
    }
    const dice = next()
    // most are on both platforms under one name; some under another, some on one alone
    const on = dice < 0.62 ? (['android', 'ios'] as const) : dice < 0.81 ? (['android'] as const) : (['ios'] as const)
    for (const platform of on) {
      const id = `org.example.${slug(maker)}.${slug(base.name)}${platform === 'ios' ? '.mobile' : ''}`
      apps.push({
        ...base,
        platform,
        id,
        link: `https://apps.example.org/${platform}/${id}`,
        priceCents: next() < 0.12 ? 299 + Math.floor(next() * 4) * 200 : 0,
        regions: next() < 0.07 ? ['DE', 'FR'] : [],
        minVersion: platform === 'ios' ? (next() < 0.1 ? 19 : 15) : next() < 0.1 ? 17 : 11,
      })
    }
    if (next() < 0.25) web.add(base.name)
  }
  for (const [use, names] of Object.entries(uses))
    for (const name of names) for (let n = 0; n < 3; n++) if (n === 0 || next() < 0.78) add(name, use, null, n)
  for (const [use, names] of Object.entries(tied)) for (const name of names) add(name, use, use as CatalogueApp['tied'], 0)
  // one of a kind: nothing is like it on the other platform
  for (const [name, platform, use] of [
    ['Ham Radio Log', 'android', 'radio'],
    ['Loom Patterns', 'android', 'weaving'],
    ['Bell Ringer', 'ios', 'bells'],
    ['Slide Rule', 'ios', 'reckoning'],
  ] as const) {
    apps.push({
      id: `org.example.oneof.${slug(name)}`,
      platform,
      name,
      maker: 'One of a Kind',
      use,
      priceCents: 0,
      regions: [],
      minVersion: 11,
      sizeBytes: 9_000,
      tied: null,
    })
    if (name === 'Loom Patterns' || name === 'Slide Rule') web.add(name)
  }
  return (made = { apps, web })
}

/** Of the other platform: the same maker's of the same name first, then those of the same use. */
export function candidatesFor(id: string, from: string, to: string) {
  const { apps, web } = catalogue()
  const app = apps.find((one) => one.id === id && one.platform === from) ?? null
  if (!app) return { id, app, candidates: [], hasWebPage: false }
  const others = apps.filter((one) => one.platform === to)
  const same = others.filter((one) => one.maker === app.maker && one.name === app.name)
  const alike = others.filter((one) => one.use === app.use && !same.includes(one))
  return { id, app, candidates: [...same, ...alike].slice(0, 20), hasWebPage: web.has(app.name) }
}
