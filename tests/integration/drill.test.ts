import { expect, it } from 'vitest'
import { drill } from '../../drill/run.ts'

/** The same courses each time, so that what turns red is the change and not the draw; `./corvend drill --seed N` plays others. */
const firstSeed = 11_000

it('a minute of drawn courses: no false agrees, no false alarm, no ticket without a way out', async () => {
  const said: string[] = []
  const { courses, checks, faults, findings } = await drill({
    seed: firstSeed,
    ms: 60_000,
    lanes: 2,
    say: (line) => said.push(line),
  })
  console.log(`from seed ${firstSeed}: ${courses} courses, ${checks} checks judged, ${faults} faults injected`)
  expect(findings.length, said.join('\n')).toBe(0)
  expect(checks).toBeGreaterThan(courses)
})
