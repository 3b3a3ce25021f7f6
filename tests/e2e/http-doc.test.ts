import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { runShop, type RunningShop } from '../setup/browser.ts'

let running: RunningShop
const folder = mkdtempSync(join(tmpdir(), 'corvend-http-'))
beforeAll(async () => {
  running = await runShop()
})
afterAll(async () => {
  await running.close()
  rmSync(folder, { recursive: true })
})

/** The commands of the page, for this shop: a whole ticket, from two phones to the erased end. */
function commands(): string {
  const [, script] = /```sh\n([\s\S]*?)```/.exec(readFileSync('docs/http.md', 'utf8'))!
  const here = script!
    .replace(/^URL=.*$/m, `URL=${running.url}/api`)
    .replace(/^TOKEN=.*$/m, `TOKEN=${running.shop.token}`)
    // what curl answered is looked at, too
    .replace('curl -sS', 'curl -sS --fail-with-body')
  return `set -e\n${here}\necho "ended $N"\n`
}

it('the ticket of docs/http.md runs by curl alone, from two phones to its erased end', async () => {
  const file = join(folder, 'ticket.sh')
  writeFileSync(file, commands())
  const child = spawn('bash', [file], { stdio: ['ignore', 'pipe', 'pipe'] })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (said += chunk.toString()))
  const code = await new Promise((resolve) => child.on('close', resolve))
  expect([code, said.slice(-300)]).toEqual([0, expect.stringMatching(/ended T-\d+\s*$/)])
  const number = /ended (T-\d+)/.exec(said)![1]!
  const { rows } = await running.shop.services.pool.query(
    `select erased_at is not null as erased, holding_id, final_ledger from ticket where number = $1`,
    [number],
  )
  expect(rows[0]).toMatchObject({ erased: true, holding_id: null })
  expect((rows[0].final_ledger as { kind: string; verdict: string }[]).map(({ verdict }) => verdict)).toEqual(
    Array(6).fill(expect.stringMatching(/^agrees/)),
  )
})
