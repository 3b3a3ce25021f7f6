import { spawnSync } from 'node:child_process'
import { report } from './measure.ts'
import type { BenchShop } from './shop.ts'

/** Peak memory of stowing and pairing 50,000 and 500,000 messages, each in a process of its own. */
export async function measureMemory({ services, masterKeyHex }: BenchShop): Promise<void> {
  const peak = (count: number) => {
    const child = spawnSync(process.execPath, ['--max-old-space-size=192', '--import', 'tsx', 'bench/memory-child.ts', String(count)], {
      encoding: 'utf8',
      env: { ...process.env, CORVEND_DATABASE_URL: services.config.databaseUrl, CORVEND_MASTER_KEY: masterKeyHex },
    })
    if (child.status !== 0) throw new Error(child.stderr)
    return Number(child.stdout.trim().split('\n').at(-1))
  }
  const peaks: [number[], number[]] = [[], []]
  for (let i = 0; i < 1; i++) for (const [at, count] of [50_000, 500_000].entries()) peaks[at]!.push(peak(count))
  const [small, large] = peaks.map((values) => Math.min(...values))
  console.log(`50,000 messages: ${(small! / 1024).toFixed(0)} MB; 500,000: ${(large! / 1024).toFixed(0)} MB (under a 192 MB old space)`)
  report('peak memory, 500,000 over 50,000', large! / small!, { atMost: 1.25 })
}
