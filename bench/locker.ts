import { spawnSync } from 'node:child_process'
import { streamFile } from '#server/line/moving/move-files.ts'
import type { Attached } from '#server/runs/ticket-of-run.ts'
import { openShop, type TestShop } from '../tests/setup/shop.ts'
import { connectionTo, newCopy } from './copy.ts'
import { report, sideBySide } from './measure.ts'
import { attach, digestOf, plugPipe } from './pipe.ts'
import type { BenchShop } from './shop.ts'

const fileBytes = 128_000_000

/** A file into a locker and back against the pipe between two phones, and the memory of lockers large and small. */
export async function measureLocker({ adminUrl }: BenchShop): Promise<void> {
  process.env.CORVEND_TEST_ADMIN_URL = adminUrl
  const shop = await openShop()
  try {
    await plugPipe(shop, [fileBytes])
    await measurePace(shop)
    measureMemory(shop)
  } finally {
    await shop.close()
  }
}

async function measurePace(shop: TestShop): Promise<void> {
  const link = shop.services.config.station!.link
  const [old, now] = [await attach(link, 'PIPE-OLD'), await attach(link, 'PIPE-NEW')]
  const file = { handle: 'v1-1', sizeBytes: fileBytes, digest: digestOf(1, fileBytes) }
  const move = (from: Attached, to: Attached) => async () => {
    const moved = await streamFile({ kind: 'videos', old: from, now: to, file, side: {}, onBytes: async () => undefined })
    if (!moved) throw new Error('not what was sent')
    return moved.handle
  }
  const rate = (ms: number) => `${(fileBytes / 1e6 / (ms / 1000)).toFixed(0)} MB/s`
  const into = await sideBySide(
    3,
    // a copy of its own each time: what is stored already is not stored again
    async () => move(old, (await connectionTo(shop.services, await newCopy(shop.services))).attached)(),
    move(old, now),
  )
  console.log(`into a locker ${rate(into.firstMs)}, to a phone ${rate(into.secondMs)}`)
  report('bytes a second into a locker over those to a phone', into.secondMs / into.firstMs, { atLeast: 0.7 })
  const copy = await newCopy(shop.services)
  const { attached, name } = await connectionTo(shop.services, copy)
  await name('videos', file.handle, await move(old, attached)())
  const back = await sideBySide(3, move(attached, now), move(old, now))
  console.log(`out of a locker ${rate(back.firstMs)}, from a phone ${rate(back.secondMs)}`)
  report('bytes a second out of a locker over those from a phone', back.secondMs / back.firstMs, { atLeast: 0.7 })
}

/** A child with little room writes and reads a locker; answers with its peak memory in kB. */
function measureMemory(shop: TestShop): void {
  const share = Number(process.env.CORVEND_MEDIA_SHARE ?? 1)
  const peakOf = (what: 'media' | 'messages', n: number) => {
    const child = spawnSync(process.execPath, ['--max-old-space-size=160', '--import', 'tsx', 'bench/locker-child.ts', what, String(n)], {
      encoding: 'utf8',
      env: { ...process.env, ...shop.env },
    })
    if (child.status !== 0) throw new Error(child.stderr)
    const [line] = child.stdout.trim().split('\n').slice(-1)
    return JSON.parse(line!) as { kb: number; perSecond: { into: number; back: number } }
  }
  for (const [what, few, many, unit] of [
    ['messages', 50_000, 500_000, 'messages'],
    ['media', 1_000_000_000, 20_000_000_000, 'bytes'],
  ] as const) {
    const [small, large] = [peakOf(what, Math.round(few * share)), peakOf(what, Math.round(many * share))]
    console.log(
      `${what}: ${(small.kb / 1024).toFixed(0)} MB of memory at ${few * share} ${unit}, ${(large.kb / 1024).toFixed(0)} MB at ${many * share}; ${Math.round(large.perSecond.into)} ${unit} a second in, ${Math.round(large.perSecond.back)} back`,
    )
    report(`peak memory of a locker of ${what}, large over small`, large.kb / small.kb, { atMost: 1.25 })
  }
}
