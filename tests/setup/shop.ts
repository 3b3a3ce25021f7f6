import { spawn, type ChildProcess } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { createInterface } from 'node:readline'
import pg from 'pg'
import { startOf } from '../../scripts/bundle.ts'
import { makeDatabases, makeSecondStandins, makeShop, type DatabaseUrls } from '../../scripts/provision.ts'
import { migrate } from '#server/base/db/migrate.ts'
import { addStaff, type Staff } from '#server/case/auth.ts'
import type { Config } from '#server/base/config.ts'
import { openPool } from '#server/base/db/sql.ts'
import type { Services } from '#server/base/services.ts'
import { clock } from '#server/base/patience.ts'
import { moveKeys } from '#server/vault/move-keys.ts'

/** What a body of JSON reads as, by the platform's own type. */
type Json = Awaited<ReturnType<Response['json']>>

export interface TestShop {
  readonly urls: DatabaseUrls
  readonly services: Services
  readonly hand: (path: string, body?: unknown, method?: string) => Promise<Json>
  readonly env: Record<string, string>
  readonly actor: Staff
  readonly token: string
  restartStandins(): Promise<void>
  addStaff(name: string, initials: string): Promise<void>
  /** Writes a file into the shop's data folder. */
  writeData(path: string, text: string): void
  close(): Promise<void>
}

export const pin = '2468'

/** A shop that an earlier version left behind. */
export interface ShopBefore {
  readonly masterKey: Buffer
  restore(urls: DatabaseUrls): Promise<void>
}

/** What an upgrade does with keys that an earlier version left in the database. */
async function keysMoved(urls: DatabaseUrls, masterKey: Buffer, keysFolder: string): Promise<Buffer> {
  const pool = openPool(urls.owner, 'corvend-test-keys', { max: 1 })
  try {
    return await moveKeys(pool, { masterKey, keysFolder, keepNext: () => undefined })
  } finally {
    await pool.end()
  }
}

/** A shop of its own for one test file: real PostgreSQL, real stand-ins in their own process. */
export async function openShop({
  leaseMs = 600,
  demo = false,
  idleMs,
  from,
  practicePhones = 'standins/main.ts',
  secondBench = false,
}: {
  leaseMs?: number
  demo?: boolean
  idleMs?: number
  from?: ShopBefore
  practicePhones?: string
  /** Another station with practice phones of its own, `window`; its ports are 9 to 16. */
  secondBench?: boolean
} = {}): Promise<TestShop> {
  const adminUrl = process.env.CORVEND_TEST_ADMIN_URL!
  const suffix = `_t${randomBytes(4).toString('hex')}`
  const secret = () => randomBytes(12).toString('hex')
  const passwords = { owner: secret(), app: secret(), standins: secret() }
  const urls = await makeDatabases(adminUrl, passwords, suffix)
  await from?.restore(urls)
  await migrate(urls.owner, urls.app)
  const dataFolder = mkdtempSync(join(tmpdir(), 'corvend-test-'))
  const keysFolder = join(dataFolder, 'keys')
  const masterKey = await keysMoved(urls, from?.masterKey ?? randomBytes(32), keysFolder)
  const token = secret()
  await makeShop(urls.app, {
    masterKey,
    name: 'Saltmere Phones',
    address: '4 Quay Street, Saltmere',
    staff: [{ name: 'Rowan', initials: 'RO', pin, token }],
  })
  const tokens = { link: secret(), hand: secret() }
  let standins = await startStandins({ file: practicePhones, database: urls.standins, tokens, demo, linkPort: 0, handPort: 0 })
  const stationAt = ({ linkPort, handPort }: typeof standins, { code, firstPort }: { code: string; firstPort: number }) => ({
    ...{ code, firstPort, name: code[0]!.toUpperCase() + code.slice(1) },
    link: { url: `http://127.0.0.1:${linkPort}`, token: tokens.link, ...(idleMs ? { idleMs } : {}) },
    hand: { url: `http://127.0.0.1:${handPort}`, token: tokens.hand },
  })
  const stations = [stationAt(standins, { code: 'bench', firstPort: 1 })]
  let second: typeof standins | undefined
  if (secondBench) {
    const database = await makeSecondStandins(adminUrl, urls.standins)
    second = await startStandins({ file: practicePhones, database, tokens, demo: false, linkPort: 0, handPort: 0 })
    stations.push(stationAt(second, { code: 'window', firstPort: 9 }))
  }
  const pool = openPool(urls.app, 'corvend-test', { max: 14 })
  const config: Config = {
    databaseUrl: urls.app,
    masterKey,
    dataFolder,
    keysFolder,
    stations,
    station: stations[0]!,
    hosts: ['127.0.0.1', 'localhost'],
    publicUrl: 'http://127.0.0.1:1',
    leaseMs,
    checksReplies: true,
  }
  const silent = { info: () => undefined, error: () => undefined }
  const { rows } = await pool.query<Staff>('select id, name, initials from staff')
  return {
    urls,
    services: { pool, config, log: silent, clock },
    actor: rows[0]!,
    token,
    env: {
      CORVEND_DATABASE_URL: urls.app,
      CORVEND_MASTER_KEY: masterKey.toString('hex'),
      CORVEND_DATA: dataFolder,
      CORVEND_STATIONS: JSON.stringify(stations),
      ...(secondBench ? {} : { CORVEND_STATION: stations[0]!.code }),
      CORVEND_LEASE_MS: String(leaseMs),
      CORVEND_CHECK_REPLIES: '1',
    },
    async hand(path, body, method) {
      // what is said of `@window` is said to the second bench
      const [, at = 'bench', rest = ''] = /^(?:@(\w+)\/)?(.*)$/.exec(path)!
      const { hand } = stations.find(({ code }) => code === at)!
      const response = await fetch(`${hand.url}/${rest}`, {
        method: method ?? (body === undefined ? 'GET' : 'POST'),
        headers: { authorization: `Bearer ${hand.token}` },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      })
      const answer: Json = await response.json()
      if (!response.ok) throw new Error(`hand: ${path}: ${answer.code}`)
      return answer
    },
    async addStaff(name, initials) {
      await addStaff(pool, { name, initials, pin })
    },
    writeData(path, text) {
      mkdirSync(dirname(join(dataFolder, path)), { recursive: true })
      writeFileSync(join(dataFolder, path), text)
    },
    async restartStandins() {
      standins.child.kill('SIGKILL')
      standins = await startStandins({
        file: practicePhones,
        database: urls.standins,
        tokens,
        demo: false,
        linkPort: standins.linkPort,
        handPort: standins.handPort,
      })
    },
    async close() {
      standins.child.kill('SIGKILL')
      second?.child.kill('SIGKILL')
      await pool.end()
      rmSync(dataFolder, { recursive: true, force: true })
      const admin = new pg.Client({ connectionString: adminUrl })
      await admin.connect()
      for (const db of [`corvend${suffix}`, `corvend_standins${suffix}`, `corvend_standins${suffix}_2`])
        await admin.query(`drop database if exists "${db}" with (force)`)
      for (const role of ['owner', 'app', 'standins']) await admin.query(`drop role if exists "corvend_${role}${suffix}"`)
      await admin.end()
    },
  }
}

interface StandinsWish {
  file: string
  database: string
  tokens: { link: string; hand: string }
  demo: boolean
  linkPort: number
  handPort: number
}

async function startStandins({ file, database, tokens, demo, linkPort, handPort }: StandinsWish) {
  const { child, ready } = await startProcess(file, {
    STANDINS_DATABASE_URL: database,
    STANDINS_LINK_PORT: String(linkPort),
    STANDINS_HAND_PORT: String(handPort),
    STANDINS_LINK_TOKEN: tokens.link,
    STANDINS_HAND_TOKEN: tokens.hand,
    ...(demo ? { STANDINS_DEMO: 'small' } : {}),
  })
  return { child, linkPort: ready.linkPort as number, handPort: ready.handPort as number }
}

/** Starts one of our processes and waits for the line that says it is ready. */
export async function startProcess(
  file: string,
  env: Record<string, string>,
  output: string[] = [],
): Promise<{ child: ChildProcess; ready: Json }> {
  const args = file === 'server/worker/main.ts' || file === 'standins/main.ts' ? await startOf(file) : ['--import', 'tsx', file]
  const child = spawn(process.execPath, args, { env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] })
  keepOutput(child, output)
  const lines = createInterface({ input: child.stdout! })
  for await (const line of lines) {
    if (line.startsWith('{') && line.includes('"ready"')) return { child, ready: JSON.parse(line) }
  }
  throw new Error(`${file} ended before it was ready`)
}

/** Keeps what a process writes, so that a test can look through it; its complaints are shown as well. */
export function keepOutput(child: ChildProcess, output: string[]): void {
  child.stdout?.on('data', (chunk: Buffer) => output.push(chunk.toString('latin1')))
  child.stderr?.on('data', (chunk: Buffer) => {
    output.push(chunk.toString('latin1'))
    process.stderr.write(chunk)
  })
}
