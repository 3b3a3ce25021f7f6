import { spawnSync } from 'node:child_process'
import { report } from './measure.ts'
import type { BenchShop } from './shop.ts'

/** Peak memory of staging and pairing 10,000 and 100,000 contacts, each in a process of its own. */
export async function measureMemory({ services, masterKeyHex }: BenchShop): Promise<void> {
  const peak = (count: number) => {
    const child = spawnSync(process.execPath, ['--max-old-space-size=192', '--import', 'tsx', 'bench/memory-child.ts', String(count)], {
      encoding: 'utf8',
      env: { ...process.env, CORVEND_DATABASE_URL: services.config.databaseUrl, CORVEND_MASTER_KEY: masterKeyHex },
    })
    if (child.status !== 0) throw new Error(child.stderr)
    return Number(child.stdout.trim().split('\n').at(-1))
  }
  // in turn, and the lower of two each: the collector's moods are not what is measured
  const peaks: [number[], number[]] = [[], []]
  for (let i = 0; i < 2; i++) for (const [at, count] of [10_000, 100_000].entries()) peaks[at]!.push(peak(count))
  const [small, large] = peaks.map((values) => Math.min(...values))
  console.log(`10,000 contacts: ${(small! / 1024).toFixed(0)} MB; 100,000: ${(large! / 1024).toFixed(0)} MB (under a 192 MB old space)`)
  report('peak memory, 100,000 over 10,000', large! / small!, { atMost: 1.25 })
}
