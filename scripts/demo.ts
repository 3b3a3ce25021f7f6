import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { buildWhenStale } from './build.ts'
import { programsFolder, startOf, type Program } from './bundle.ts'
import { seedDemo } from './demo-shop.ts'
import { folderFor, giveTo, ownUser, type OwnUser } from './own-user.ts'
import { freePort, startPostgres, type LocalServer } from './postgres.ts'
import { giveToken, makeSecondStandins, makeShop, provision, type DatabaseUrls } from './provision.ts'
import { moveUploads } from '../server/endpoints/move-uploads.ts'
import { readState, upgradeKeys } from './state.ts'

export interface DemoWish {
  readonly isFresh: boolean
  readonly hasPractice: boolean
  /** Nobody works here yet: whoever opens it sets it up. */
  readonly isEmpty?: boolean
  /** For developers: pages change as their files are saved, other processes start anew with theirs. */
  readonly isDev?: boolean
  /** Another bench, with practice phones and a worker of its own. */
  readonly hasSecondBench?: boolean
}

export const demoStaff = { name: 'Rowan', initials: 'RO', pin: '4417' }

/** Starts everything and stays until Ctrl-C. A second start is refused; data is kept unless asked otherwise. */
export async function demo({ isFresh, hasPractice, isEmpty = false, isDev = false, hasSecondBench = false }: DemoWish): Promise<void> {
  const began = Date.now()
  const what = isEmpty ? (hasPractice ? 'training' : 'shop') : 'demo'
  const folder = join('.corvend', what)
  mkdirSync(folder, { recursive: true })
  const pidFile = join(folder, 'running.json')
  refuseSecondStart(pidFile)
  let postgres: LocalServer | undefined
  const children: ChildProcess[] = []
  let isStopping = false
  const stop = async () => {
    if (isStopping) return
    isStopping = true
    await endAll(children)
    postgres?.stop()
    rmSync(pidFile, { force: true })
    process.exit(0)
  }
  process.on('SIGINT', () => void stop())
  process.on('SIGTERM', () => void stop())

  if (!process.env.DATABASE_URL) {
    if (isFresh) await forget(folder)
    postgres = await startPostgres(join('.corvend', `${what}-postgres`))
  }
  const adminUrl = process.env.DATABASE_URL ?? postgres!.adminUrl
  const { state, masterKeyFile, masterKey: known } = readState(folder)
  const urls = await provision(adminUrl, state.passwords, isEmpty ? (hasPractice ? '_training' : '') : '_demo')
  // a developer's own processes write what they build into the project
  const user = isDev ? undefined : ownUser()
  const dataFolder = folderFor(user, join(folder, 'data'), [masterKeyFile])
  const keysFolder = join(dataFolder, 'keys')
  const masterKey = await upgradeKeys({ ownerUrl: urls.owner, masterKeyFile, masterKey: known, keysFolder })
  await moveUploads({ masterKey, keysFolder, dataFolder })
  giveTo(user, [masterKeyFile, keysFolder, join(dataFolder, 'blobs')])
  await makeShop(urls.app, {
    masterKey,
    // an empty shop is set up on its page, by whoever opens it first
    ...(!isEmpty ? { name: 'Saltmere Phones', address: '4 Quay Street, Saltmere SM1 4QY' } : { name: '', address: '' }),
    staff: !isEmpty
      ? [
          { ...demoStaff, token: state.apiToken },
          { name: 'Merryn', initials: 'ME', pin: '2260' },
        ]
      : [],
  })
  if (!isDev) buildWhenStale()

  const webPort = Number(process.env.PORT) || (await portNear(4670))
  const benches: PracticeBench[] = []
  if (hasPractice) benches.push(await benchOf({ code: 'bench', name: hasSecondBench ? 'Counter' : '', firstPort: 1 }, urls.standins, '1'))
  if (hasSecondBench)
    benches.push(
      await benchOf({ code: 'window', name: 'Window', firstPort: 9 }, await makeSecondStandins(adminUrl, urls.standins), 'window'),
    )
  const programs: Record<string, string> = isDev ? {} : { CORVEND_PROGRAMS: await programsFolder() }
  const env = { ...envOf({ urls, dataFolder, masterKeyFile, webPort, state, benches }), ...programs }
  const watching = isDev ? ['--watch', '--watch-preserve-output'] : []
  const start = async (program: Program) => (isDev ? [...watching, '--import', 'tsx', program] : await startOf(program))
  const keep = (args: readonly string[], extra: Record<string, string> = {}) =>
    keepRunning(args, { env: { ...env, ...extra }, user, children, isStopping: () => isStopping })
  for (const { database, demo, linkPort, handPort } of benches)
    keep(await start('standins/main.ts'), {
      STANDINS_DATABASE_URL: database,
      STANDINS_LINK_PORT: String(linkPort),
      STANDINS_HAND_PORT: String(handPort),
      STANDINS_LINK_TOKEN: state.linkToken,
      STANDINS_HAND_TOKEN: state.handToken,
      STANDINS_DEMO: demo,
    })
  keep(
    isDev
      ? ['node_modules/nuxt/bin/nuxt.mjs', 'dev', '--host', '127.0.0.1', '--port', String(webPort), '--no-fork']
      : ['.output/server/index.mjs'],
  )
  const worker = await start('server/worker/main.ts')
  if (benches.length === 0) keep(worker)
  for (const { station } of benches) keep(worker, { CORVEND_STATION: station.code })
  const address = `http://127.0.0.1:${webPort}`
  await untilAnswers(`${address}/api/health`)
  for (const { handPort } of benches) await untilAnswers(`http://127.0.0.1:${handPort}/models`, state.handToken)
  if (!isEmpty) {
    await seedDemo({ urls, masterKey, keysFolder })
    giveTo(user, [keysFolder])
  }
  writeFileSync(pidFile, JSON.stringify({ pid: process.pid, address }), { mode: 0o600 })
  console.log(`Corvend is at ${address}  (${((Date.now() - began) / 1000).toFixed(1)} s)`)
  if (!isEmpty) console.log(`  sign in    ${demoStaff.name}, PIN ${demoStaff.pin}`)
  const named = !isEmpty ? demoStaff.name : await giveToken(urls.app, state.apiToken)
  if (!named) {
    console.log('  Open it to set the shop up.')
    void whenSetUp(urls.app, state.apiToken, () => isStopping)
  } else console.log(`  scripts    Authorization: Bearer ${state.apiToken}`)
  console.log('  Ctrl-C ends everything; data is kept.')
}

/** Scripts may ask once somebody works here. */
async function whenSetUp(appUrl: string, token: string, isOver: () => boolean): Promise<void> {
  while (!isOver()) {
    const name = await giveToken(appUrl, token).catch(() => undefined)
    if (name) return console.log(`  scripts    Authorization: Bearer ${token}  (in ${name}’s name)`)
    await new Promise((resolve) => setTimeout(resolve, 2000))
  }
}

function refuseSecondStart(pidFile: string): void {
  if (!existsSync(pidFile)) return
  const { pid, address } = JSON.parse(readFileSync(pidFile, 'utf8')) as { pid: number; address: string }
  try {
    process.kill(pid, 0)
  } catch {
    return
  }
  throw new Error(`Corvend is running already, at ${address} (process ${pid}). End it with Ctrl-C there, or: kill ${pid}`)
}

/** Forgets a shop: its database, secrets and files. */
async function forget(folder: string): Promise<void> {
  const server = await startPostgres('.corvend/demo-postgres')
  const { default: pg } = await import('pg')
  const admin = new pg.Client({ connectionString: server.adminUrl })
  await admin.connect()
  for (const db of ['corvend_demo', 'corvend_standins_demo', 'corvend_standins_demo_2'])
    await admin.query(`drop database if exists ${db} with (force)`)
  await admin.end()
  rmSync(folder, { recursive: true, force: true })
  mkdirSync(folder, { recursive: true })
}

/** A bench of practice phones: what the shop knows of it, and where its phones are kept. */
interface PracticeBench {
  readonly station: { code: string; name: string; firstPort: number }
  readonly database: string
  /** Which phones it begins with. */
  readonly demo: '1' | 'window'
  readonly linkPort: number
  readonly handPort: number
}

async function benchOf(station: PracticeBench['station'], database: string, demo: PracticeBench['demo']): Promise<PracticeBench> {
  return { station, database, demo, linkPort: await freePort(), handPort: await freePort() }
}

interface EnvWish {
  readonly urls: DatabaseUrls
  readonly dataFolder: string
  readonly masterKeyFile: string
  readonly webPort: number
  readonly state: { readonly linkToken: string; readonly handToken: string }
  readonly benches: readonly PracticeBench[]
}

/** What web and workers are told. */
export function envOf({ urls, dataFolder, masterKeyFile, webPort, state, benches }: EnvWish): Record<string, string> {
  const at = (port: number, token: string) => ({ url: `http://127.0.0.1:${port}`, token })
  return {
    CORVEND_DATABASE_URL: urls.app,
    CORVEND_MASTER_KEY_FILE: masterKeyFile,
    CORVEND_DATA: dataFolder,
    // its own way of ending waits for every connection, and trips over one that was cut
    NITRO_SHUTDOWN_DISABLED: 'true',
    NITRO_HOST: '127.0.0.1',
    NITRO_PORT: String(webPort),
    PORT: String(webPort),
    // where a customer would reach the lists; a shop with an address of its own sets it
    ...(benches.length > 0 && !process.env.CORVEND_PUBLIC_URL ? { CORVEND_PUBLIC_URL: `http://127.0.0.1:${webPort}` } : {}),
    // without practice phones the shop says itself which benches it has
    ...(benches.length > 0
      ? {
          CORVEND_STATIONS: JSON.stringify(
            benches.map(({ station, linkPort, handPort }) => ({
              ...station,
              link: at(linkPort, state.linkToken),
              hand: at(handPort, state.handToken),
            })),
          ),
        }
      : {}),
  }
}

/** Ends processes: in order where they can, and those that are too busy to hear it without asking. */
export async function endAll(children: readonly ChildProcess[], patienceMs = 1500): Promise<void> {
  const ends = [...children].map((child) =>
    child.exitCode !== null || child.signalCode !== null ? undefined : new Promise<void>((resolve) => child.once('exit', () => resolve())),
  )
  const all = [...children]
  for (const child of all) child.kill('SIGTERM')
  const force = setTimeout(() => all.forEach((child) => child.kill('SIGKILL')), patienceMs)
  await Promise.all(ends)
  clearTimeout(force)
}

interface Keeping {
  readonly env: Record<string, string>
  readonly user: OwnUser | undefined
  readonly children: ChildProcess[]
  isStopping(): boolean
}

/** Starts a process and starts it again whenever it ends by itself. */
function keepRunning(args: readonly string[], how: Keeping): void {
  const { env, user, children, isStopping } = how
  const child = spawn(process.execPath, [...args], { env: { ...process.env, ...env }, stdio: ['ignore', 'ignore', 'inherit'], ...user })
  children.push(child)
  child.on('exit', () => {
    children.splice(children.indexOf(child), 1)
    if (!isStopping()) setTimeout(() => !isStopping() && keepRunning(args, how), 700)
  })
}

async function portNear(wanted: number): Promise<number> {
  const answers = await fetch(`http://127.0.0.1:${wanted}/`).then(
    () => true,
    () => false,
  )
  return answers ? freePort() : wanted
}

async function untilAnswers(url: string, token = ''): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const ok = await fetch(url, { headers: { authorization: `Bearer ${token}` } }).then(
      (response) => response.ok,
      () => false,
    )
    if (ok) return
    await new Promise((resolve) => setTimeout(resolve, 150))
  }
  throw new Error('The application does not answer. Its messages are above.')
}
