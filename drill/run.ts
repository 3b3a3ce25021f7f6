import { openShop, type TestShop } from '../tests/setup/shop.ts'
import { startPostgres } from '../scripts/postgres.ts'
import { worker } from '../tests/setup/acts.ts'
import { courseOf, type Course } from './course.ts'
import { play, type Finding } from './play.ts'
import { playRoad, roadsOf } from './roads.ts'

export interface DrillWish {
  readonly seed: number
  readonly ms: number
  /** Courses side by side, each with a shop of its own. */
  readonly lanes: number
  readonly say: (line: string) => void
}

export interface Drilled {
  readonly courses: number
  readonly checks: number
  readonly faults: number
  readonly findings: readonly { readonly course: Course; readonly finding: Finding }[]
}

/** Plays courses from a seed on, one after the other, until the time is over; what is found is cut down to its shortest course. */
export async function drill({ seed, ms, lanes, say }: DrillWish): Promise<Drilled> {
  const end = Date.now() + ms
  const figures = { courses: 0, checks: 0, faults: 0 }
  const findings: { course: Course; finding: Finding }[] = []
  let next = seed
  const lane = async () => {
    const shop = await openShop({ leaseMs: 600 })
    try {
      do {
        const course = courseOf(next++)
        const { finding, checks, faults } = await play(shop, course)
        figures.courses++
        figures.checks += checks
        figures.faults += faults
        if (!finding) continue
        const short = await shorten(shop, course, finding)
        say(`seed ${course.seed}: ${finding.what}: ${short.finding.says}`)
        say(`  ${describe(short.course)}`)
        findings.push(short)
      } while (Date.now() < end)
    } finally {
      await shop.close()
    }
  }
  await Promise.all(Array.from({ length: lanes }, lane))
  return { ...figures, findings }
}

/** Plays every road once, with kinds drawn from the seed. Answers with how many ended otherwise than they must. */
async function drillRoads(seed: number, say: (line: string) => void): Promise<{ roads: number; findings: number }> {
  const shop = await openShop({ leaseMs: 600 })
  const hands = worker(shop)
  let findings = 0
  const roads = roadsOf(seed)
  try {
    for (const road of roads) {
      const against = await playRoad(shop, road).catch((error: unknown) => [String((error as Error).message)])
      if (against.length === 0) continue
      findings++
      say(`roads of seed ${seed}: ${road.old} to ${road.now}, ${road.kinds.join(' ')}: ${against.join('; ')}`)
    }
  } finally {
    hands.kill()
    await shop.close()
  }
  return { roads: roads.length, findings }
}

/** Leaves out one op after the other while the same is found. */
async function shorten(shop: TestShop, course: Course, finding: Finding): Promise<{ course: Course; finding: Finding }> {
  let found = { course, finding }
  for (let at = course.ops.length - 1; at >= 0; at--) {
    const ops = found.course.ops.filter((_, i) => i !== at)
    const again = await play(shop, { ...found.course, ops })
    if (again.finding?.what === finding.what) found = { course: { ...found.course, ops }, finding: again.finding }
  }
  return found
}

/** “ to ”, “ by a locker killed at before-send to ”. */
const way = (by: string, kill: string | null) => (by ? ` by ${by}${kill ? ` killed at ${kill}` : ''} to ` : ' to ')

function describe({ kind, pair, oldCount, newCount, isOverlapping, locker, files, ops }: Course): string {
  const each = ops.map((op) => Object.values(op).join(' ')).join(', ')
  return `${kind}, ${pair.join(way(locker ? 'a locker' : files ? 'files' : '', (locker ?? files)?.kill ?? null))}, ${oldCount} to ${newCount}${isOverlapping ? ' overlapping' : ''}: ${each || 'nothing'}`
}

/** `./corvend drill [--seed N] [--minutes M]`: every road once, then courses until the time is over; ends with how much was played and found. */
export async function runDrill(args: readonly string[]): Promise<void> {
  const valueOf = (name: string) => (args.includes(name) ? Number(args[args.indexOf(name) + 1]) : undefined)
  const seed = valueOf('--seed') ?? 1
  const minutes = valueOf('--minutes') ?? (args.includes('--seed') ? 0.001 : 5)
  if (!Number.isFinite(seed) || !Number.isFinite(minutes)) throw new Error('usage: ./corvend drill [--seed N] [--minutes M]')
  const server = process.env.DATABASE_URL ? undefined : await startPostgres('.corvend/drill-postgres', { fast: true, endsWithUs: true })
  process.env.CORVEND_TEST_ADMIN_URL = process.env.DATABASE_URL ?? server!.adminUrl
  try {
    console.log(`Drilling from seed ${seed} for ${minutes} min`)
    const lanes = minutes < 0.1 ? 1 : 2
    const say = (line: string) => console.log(line)
    const began = Date.now()
    const along = lanes > 1 ? await drillRoads(seed, say) : { roads: 0, findings: 0 }
    const ms = minutes * 60_000 - (Date.now() - began)
    const { courses, checks, faults, findings } = await drill({ seed, ms, lanes, say })
    const found = findings.length + along.findings
    console.log(`${along.roads} roads, ${courses} courses, ${checks} checks judged, ${faults} faults injected, ${found} findings`)
    if (found > 0) process.exitCode = 1
  } finally {
    server?.stop()
  }
}
