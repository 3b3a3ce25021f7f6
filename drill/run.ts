import { openShop, type TestShop } from '../tests/setup/shop.ts'
import { startPostgres } from '../scripts/postgres.ts'
import { courseOf, type Course } from './course.ts'
import { play, type Finding } from './play.ts'

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

/** `./corvend drill [--seed N] [--minutes M]`: ends with how much was played and found. */
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
    const { courses, checks, faults, findings } = await drill({ seed, ms: minutes * 60_000, lanes, say: (line) => console.log(line) })
    console.log(`${courses} courses, ${checks} checks judged, ${faults} faults injected, ${findings.length} findings`)
    if (findings.length > 0) process.exitCode = 1
  } finally {
    server?.stop()
  }
}
