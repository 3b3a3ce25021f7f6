import type { BookIn, TicketView } from '#contracts/http/ticket.ts'
import { bookIn } from '#server/desk/book-in/act.ts'
import { startCarry } from '#server/desk/carry/act.ts'
import { acceptDifference, putBackToWait, startCheck, takeAway } from '#server/desk/check-off/act.ts'
import { choose } from '#server/desk/choose/act.ts'
import { startCountIn } from '#server/desk/count-in/act.ts'
import { sign } from '#server/desk/hand-back/act.ts'
import { openTakeHome } from '#server/desk/take-home/act.ts'
import { bring } from '../tests/setup/uploads.ts'
import { handBackAndErase } from '#server/desk/hand-back/erase.ts'
import { readEntries } from '#server/desk/items/entries.ts'
import { readTicket } from '#server/desk/read-ticket.ts'
import { createExecutor, type Executor } from '#server/line/executor.ts'
import { setNeed, setPutBack } from '#server/ready/act-ready.ts'
import { unopened } from '../tests/setup/opens.ts'
import type { TestShop } from '../tests/setup/shop.ts'
import { standsApart, type Course, type Op } from './course.ts'
import { createOracle, type Oracle, type Seen } from './oracle.ts'

/** What went wrong in a course, in a sentence; the ops it took up to there. */
export interface Finding {
  readonly what: 'false agrees' | 'false alarm' | 'does not open' | 'no way out' | 'stuck' | 'failed'
  readonly says: string
  readonly after: number
}

export interface Played {
  readonly finding: Finding | null
  readonly checks: number
  readonly faults: number
}

/** Bytes of a track that lists name. */
const trackSize = 20_000
const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const platformOf = (model: string) => (model.startsWith('Veyra') ? 'ios' : 'android')

class Found extends Error {
  constructor(
    readonly what: Finding['what'],
    says: string,
  ) {
    super(says)
  }
}

/** Plays a course with two phones of its own in ports 1 and 2 of the shop, and judges at every check and at the end. */
export async function play(shop: TestShop, course: Course): Promise<Played> {
  const player = await createPlayer(shop, course)
  let at = 0
  try {
    for (; at < course.ops.length; at++) await player.act(course.ops[at]!)
    await player.finish()
    return { finding: null, ...player.figures() }
  } catch (error) {
    if (error instanceof Found) return { finding: { what: error.what, says: error.message, after: at }, ...player.figures() }
    return { finding: { what: 'failed', says: String((error as Error).message), after: at }, ...player.figures() }
  } finally {
    await player.end()
  }
}

async function createPlayer(shop: TestShop, course: Course) {
  const { services, actor } = shop
  const { kind } = course
  const kinds = kind === 'playlists' ? ['music', kind] : [kind]
  const rowOf = (ticket: TicketView) => ticket.ledger.find((row) => row.kind === kind)!
  const serials = { old: `DO-${course.seed}-${Date.now() % 100000}`, new: `DN-${course.seed}-${Date.now() % 100000}` }
  const hand = (side: 'old' | 'new', verb: string, body: object = {}) => shop.hand(`phones/${serials[side]}/${verb}`, body)
  let dieAt: string | null = null
  let executor: Executor
  const start = () => {
    const mine = createExecutor(services, (name) => {
      if (name !== dieAt) return undefined
      dieAt = null
      mine.kill()
      start()
      return new Promise<void>(() => undefined)
    })
    executor = mine
  }
  start()
  const sweeping = setInterval(() => void executor.sweep().catch(() => undefined), 40)
  const helping = setInterval(() => void help().catch(() => undefined), 150)
  async function help() {
    for (const [i, side] of (['old', 'new'] as const).entries()) {
      const phone = await shop.hand(`phones/${serials[side]}`)
      if (phone.port === null) await hand(side, 'plug', { port: i + 1 })
      if (phone.isLocked) await hand(side, 'unlock')
    }
  }

  for (const [i, side] of (['old', 'new'] as const).entries()) {
    await shop.hand('phones', { serial: serials[side], model: course.pair[i], version: '18', settle_ms: 20, joins_equal: false })
    const seed = side === 'old' || course.isOverlapping ? course.seed : course.seed + 7777
    const count = side === 'old' ? course.oldCount : course.newCount
    // the tracks that lists name stand on both phones: what becomes of a list is no matter of theirs
    if (kind === 'playlists')
      for (const of of new Set([course.seed, seed])) await hand(side, 'fill', { kind: 'music', seed: of, count: 3, size: trackSize })
    if (count > 0) await hand(side, 'fill', { kind: kind === 'contacts' ? undefined : kind, seed, count, film: 0, trackSize })
    await hand(side, 'plug', { port: i + 1 })
    await hand(side, 'trust')
    await hand(side, 'cable-files-on').catch(() => undefined)
  }
  const phone = (side: 'old' | 'new') => {
    const model = course.pair[side === 'old' ? 0 : 1]
    return {
      place: 'bench' as const,
      maker: model.split(' ')[0]!,
      model,
      platform: platformOf(model) as 'ios' | 'android',
      version: '18',
      serial: serials[side],
    }
  }
  const book = (old: BookIn['old'], now: BookIn['new']) =>
    bookIn(
      services,
      {
        customer: { name: 'Wilf Drill', phone: '', note: '' },
        old,
        new: now,
        kinds,
        intake: {},
        promisedAt: '2026-11-30T16:30:00Z',
        waitsInShop: false,
      },
      actor,
    )
  const locker = { place: 'locker', maker: 'Locker', model: 'locker', platform: 'locker', version: '', serial: null } as const
  let number = ''
  const read = () => readTicket(services, number, actor)
  const folder = { place: 'folder', maker: 'Files', model: 'Files', platform: 'folder', version: '', serial: null } as const
  const brought = { place: 'file', maker: 'Files', model: 'Files', platform: 'file', version: '', serial: null } as const
  const old = course.locker
    ? { ...locker, copy: await copyFirst(course.locker.kill) }
    : course.files
      ? { ...brought, upload: await homeFirst(course.files.kill) }
      : phone('old')
  number = await book(old, phone('new'))
  await prepare()
  const store = async (side: 'old' | 'new'): Promise<Seen[]> =>
    (await shop.hand(`phones/${serials[side]}/store?kind=${kind}`)).records.map((r: { id: string; facts: string[]; files: string[] }) => ({
      id: r.id,
      // an app has one place on a phone, whatever is in it
      says:
        kind === 'apps'
          ? String(JSON.parse(r.facts[0]!).bundle)
          : // title and date are written into a recording that stands apart: its time tells which it is
            [
              ...r.facts.map((fact) => asShown(fact, course)).sort(),
              ...(kind === 'recordings' && standsApart(course) ? r.files.map(() => 'a file') : r.files),
            ].join(' | '),
    }))
  const oracle: Oracle = createOracle(await store('old'), { holdsMore: kind === 'contacts' })
  let [isFrozen, checks, faults] = [false, 0, 0]

  /** Carries the old phone to a place of the shop’s, a ticket of its own to its signature; that must hold what the phone does. */
  async function carriedTo(place: BookIn['new'], kill: string | null): Promise<TicketView> {
    number = await book(phone('old'), place)
    await prepare()
    await whenReady(() => startCountIn(services, number, actor))
    await settled('counting in')
    dieAt = kill
    await carryChosen()
    const ticket = await settled('copying')
    dieAt = null
    const row = rowOf(ticket)
    const count = (await shop.hand(`phones/${serials.old}/store?kind=${kind}`)).records.length
    const isWhole = row.new.last === count - row.fates.notChosen - row.fates.cannotCross
    if (!row.verdict.startsWith('agrees') || !isWhole)
      throw new Found('false alarm', `a copy of ${count}: ${row.verdict} ${JSON.stringify({ fates: row.fates, new: row.new })}`)
    await putBack()
    await sign(services, number, { by: 'Wilf Drill', actor, withWhatStands: false })
    return ticket
  }

  async function copyFirst(kill: string | null): Promise<number> {
    const { new: now } = await carriedTo({ ...locker, keepUntil: new Date(Date.now() + 86_400_000).toISOString().slice(0, 10) }, kill)
    await handBackAndErase(services, number, number)
    return now.copy!.id
  }

  /** Taken home, and brought back as it was fetched. */
  async function homeFirst(kill: string | null): Promise<string> {
    await carriedTo({ ...folder, ...(course.seed % 2 ? { password: 'Lantern 12' } : {}) }, kill)
    const { bytes } = await openTakeHome(services, number, { actor, isBegun: false })
    const chunks: Buffer[] = []
    for await (const chunk of bytes.read({ from: 0, to: bytes.sizeBytes })) chunks.push(chunk)
    await handBackAndErase(services, number, number)
    const { upload, state } = await bring(
      services,
      { 'home.zip': Buffer.concat(chunks) },
      { password: course.seed % 2 ? 'Lantern 12' : null },
    )
    if (state !== 'sorted') throw new Found('failed', `what was taken home is ${state} when it is brought back`)
    return upload
  }

  /** What fingers do before a kind may be read and written. */
  async function prepare() {
    const [old, now] = [platformOf(course.pair[0]), platformOf(course.pair[1])]
    const acts: [side: 'old' | 'new', act: string][] =
      kind === 'messages' && now === 'android'
        ? [['new', 'message-app-helper']]
        : kind === 'messages'
          ? [
              ['new', 'anti-theft-off'],
              ['new', 'passcode-off'],
              ['old', 'encrypted-reading-on'],
            ]
          : kind === 'calls' && old === 'ios'
            ? [['old', 'encrypted-reading-on']]
            : []
    for (const [side, act] of acts) await hand(side, act)
    // what only a person can see is seen
    for (const side of ['old', 'new'] as const) {
      const { needs } = (await readTicket(services, number, actor)).ready[side]
      for (const need of needs.filter(({ weight, state }) => weight === 'must' && (state === 'unmet' || state === 'ask'))) {
        await setNeed(services, number, { actor, body: { side, code: need.code, how: 'ticked', reason: null } }).catch(() => undefined)
      }
    }
  }

  async function settled(what: string): Promise<TicketView> {
    const end = Date.now() + 40_000
    for (;;) {
      const ticket = await read()
      if (!ticket.run) return ticket
      if (ticket.run.reason === 'Internal') throw new Found('failed', `${what}: a mistake of our own at ${ticket.run.step}`)
      if (Date.now() > end)
        throw new Found('stuck', `${what} never ends: ${ticket.run.type} ${ticket.run.state} ${ticket.run.reason ?? ''}`)
      await sleep(50)
    }
  }

  /** After a check: the verdict against the oracle’s. What agrees must agree; an alarm may have a way out still. */
  async function judged(ticket: TicketView): Promise<TicketView> {
    const row = rowOf(ticket)
    if (row.new.last === null) return ticket
    checks++
    const closed = await unopened(shop, number, row)
    if (closed.length > 0) throw new Found('does not open', closed.join('; '))
    const now = await store('new')
    const { agrees, because } = oracle.judge(now)
    oracle.sawWhole(now)
    if (row.verdict.startsWith('agrees') && !agrees) throw new Found('false agrees', `${row.verdict} though ${because.join('; ')}`)
    return ticket
  }

  /** A cable that was pulled by a fault is put back by a hand, which takes its time. */
  async function whenReady(start: () => Promise<unknown>): Promise<void> {
    const end = Date.now() + 20_000
    for (;;) {
      try {
        return void (await start())
      } catch (error) {
        if ((error as { code?: string }).code !== 'PhonesNotReady') throw error
        if (Date.now() > end) throw new Found('stuck', `never ready: ${await lacks()}`)
        await help()
        await sleep(100)
      }
    }
  }

  async function lacks(): Promise<string> {
    const { old, new: now } = await read()
    return [...old.unmet, ...now.unmet].join(', ')
  }

  async function carry(): Promise<void> {
    if (!isFrozen) oracle.freeze(await store('new'))
    isFrozen = true
    await carryChosen()
    await judged(await settled('carrying'))
  }

  function carryChosen(): Promise<void> {
    return whenReady(async () => {
      const { forecasts } = await read()
      const body = { stamps: Object.fromEntries(forecasts.map((f) => [f.kind, f.stamp])), confirmRoles: true }
      await startCarry(services, number, { body, actor })
    })
  }

  async function check(): Promise<TicketView> {
    await whenReady(() => startCheck(services, number, actor))
    return judged(await settled('checking'))
  }

  async function act(op: Op): Promise<void> {
    const first = !(await read()).forecasts.length
    if (first) {
      await whenReady(() => startCountIn(services, number, actor))
      await settled('counting in')
    }
    if (op.op === 'carry') return carry()
    if (op.op === 'check') return isFrozen ? void (await check()) : undefined
    if (op.op === 'again') return void (await putBackToWait(services, number, { kind, fates: ['lost', 'refused', 'unreadable'] }))
    if (op.op === 'take-away') return takeAll()
    if (op.op === 'kill') {
      dieAt = op.at
      return undefined
    }
    if (op.op === 'fault') {
      faults++
      return void (await hand(op.side, 'faults', { faults: [{ point: op.point, effect: op.effect, skip: op.skip, times: 1 }] }))
    }
    if (!('at' in op)) return undefined
    if (op.op === 'unchoose') return unchoose(op.at)
    const side = op.op.endsWith('old') ? 'old' : 'new'
    const records = await store(side)
    const record = records[op.at % Math.max(1, records.length)]
    if (!record) return undefined
    const verb = op.op.startsWith('edit') ? 'edit-record' : op.op.startsWith('copy') ? 'copy-record' : 'delete-record'
    // a file’s copy needs its file, too
    const hasFile = kind === 'messages' ? record.says.includes('"type"') : !['contacts', 'calls', 'calendar', 'playlists'].includes(kind)
    if (verb === 'copy-record' && hasFile) return undefined
    await hand(side, verb, { id: Number(record.id) })
    const [old, now] = [await store('old'), await store('new')]
    if (side === 'old') return oracle.lookAtOld(old, now)
    if (!isFrozen) return undefined
    if (verb === 'edit-record' && now.find(({ id }) => id === record.id)?.says !== record.says)
      oracle.handEditedNew(record.id, record.says, now)
    if (verb === 'delete-record') oracle.handDeletedNew(record.id, record.says, now)
    if (verb === 'copy-record') for (const { id } of now) if (!records.some((r) => r.id === id)) oracle.handAddedNew(id)
    return undefined
  }

  async function unchoose(at: number): Promise<void> {
    const key = `old-${at % course.oldCount}`
    await choose(services, number, { kind, body: { mode: 'add', choice: 'some', set: [{ key, isChosen: false }], slice: null } })
    const { rows } = await readEntries(services, number, {
      actor,
      search: { kind, filter: 'notChosen', facet: '', storage: '', reason: '', group: '', when: '', text: '', after: null, limit: 200 },
    })
    for (let i = 0; i < course.oldCount; i++) oracle.setChosen(i, !rows.some((row) => row.key === `old-${i}`))
  }

  async function takeAll(): Promise<void> {
    if (!rowOf(await read()).new.leftBehind) return
    await whenReady(() => takeAway(services, number, { kind, actor, body: { changed: true, typed: number } }))
    await judged(await settled('taking away'))
  }

  /** Every way out that can be pressed, until it agrees or only the customer can say yes; then signed and erased. */
  async function finish(): Promise<void> {
    for (const side of ['old', 'new'] as const) await shop.hand(`phones/${serials[side]}/faults`, {}, 'DELETE')
    dieAt = null
    await act({ op: 'carry' })
    let ticket = await check()
    for (let turn = 0; turn < 6 && !rowOf(ticket).verdict.startsWith('agrees'); turn++) {
      await takeAll()
      await putBackToWait(services, number, { kind, fates: ['lost', 'refused', 'unreadable'] })
      await carry()
      ticket = await check()
    }
    const row = rowOf(ticket)
    const { agrees, because } = oracle.judge(await store('new'))
    if (agrees && !row.verdict.startsWith('agrees'))
      throw new Found(
        'false alarm',
        `${row.verdict} ${JSON.stringify({ short: row.short, over: row.over, pending: row.fates.pending, fates: row.fates, new: row.new })}`,
      )
    if (!agrees && row.verdict.startsWith('agrees')) throw new Found('false agrees', because.join('; '))
    // where no hand was on the new phone, every difference has a way out that can be pressed
    if (row.verdict === 'differs' && !course.ops.some(({ op }) => op.endsWith('-new')))
      throw new Found('no way out', `differs to the end: ${JSON.stringify({ fates: row.fates, new: row.new })}`)
    if (row.verdict === 'differs') await acceptDifference(services, number, { kind, by: 'Wilf Drill' })
    try {
      await putBack()
      await sign(services, number, { by: 'Wilf Drill', actor, withWhatStands: true })
      await handBackAndErase(services, number, number)
    } catch (error) {
      throw new Found('no way out', String((error as Error).message))
    }
  }

  async function putBack(): Promise<void> {
    const { ready } = await read()
    for (const side of ['old', 'new'] as const)
      for (const { code, state } of ready[side].putBack)
        if (state === 'open') await setPutBack(services, number, { actor, body: { side, code, how: 'waived', by: 'Wilf Drill' } })
  }

  return {
    act,
    finish,
    figures: () => ({ checks, faults }),
    async end() {
      clearInterval(sweeping)
      clearInterval(helping)
      executor.kill()
      for (const serial of Object.values(serials)) await shop.hand(`phones/${serial}`, undefined, 'DELETE').catch(() => undefined)
    },
  }
}

/** A fact as a person reads it: blanks at its ends are nothing, and what this maker’s phones never show is not there. */
function asShown(fact: string, course: Course): string {
  const { kind, pair } = course
  const at = fact.startsWith('{') ? 0 : fact.indexOf('=') + 1
  const value = fact.slice(at)
  if (!value.startsWith('{')) return fact.slice(0, at) + value.trim()
  const said = JSON.parse(value) as Record<string, unknown>
  // its name says what its own list said: it is the same file, of the same time
  if (standsApart(course)) return JSON.stringify({ at: said.at, ...(kind === 'recordings' ? {} : { size: said.size }) })
  const hidden = pair[0].startsWith('Tamsel') ? { messages: ['line'], calendar: ['calendar'] }[kind as string] : undefined
  for (const name of hidden ?? []) delete said[name]
  // the name beside a call is the phone’s own look into its contacts
  if (kind === 'calls') delete said.name
  // when such a file was changed is no content of it: open files keep it to two seconds
  if (['music', 'books', 'documents'].includes(kind)) delete said.at
  // what a phone’s index reads out of such a file by itself, nobody told it
  if (['music', 'books'].includes(kind)) {
    const { position, marks } = said.says as Record<string, string>
    // one maker’s books keep their marks to themselves
    said.says = pair[0].startsWith('Veyra') ? { position } : { position, marks }
  }
  // one picture of both places, whichever way a maker says that
  if (kind === 'wallpapers') said.says = { places: String((said.says as { places?: string }).places).replace('both', 'home lock') }
  // of two of one name in a folder the later gets a number behind it
  if (kind === 'documents') said.name = String(said.name).replace(/ \(\d+\)(?=\.\w+$|$)/, '')
  // the parts of a rule have no order
  if (typeof said.rule === 'string') said.rule = said.rule.split(';').sort().join(';')
  const trimmed = Object.entries(said).map(([name, one]) => [name, typeof one === 'string' ? one.trim() : one])
  return fact.slice(0, at) + JSON.stringify(Object.fromEntries(trimmed.sort()))
}
