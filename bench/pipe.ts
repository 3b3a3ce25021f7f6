import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { piecesOf } from '#standins/files/files.ts'
import { longFilm } from '#standins/kinds/videos/index.ts'
import { connectionOver, type LinkServer } from '#server/endpoints/makers/practice.ts'
import { streamFile } from '#server/line/moving/move-files.ts'
import { attachedTo, type Attached } from '#server/runs/ticket-of-run.ts'
import { openShop, type TestShop } from '../tests/setup/shop.ts'
import { report, sideBySide } from './measure.ts'
import type { BenchShop } from './shop.ts'

const pipeBytes = 128_000_000

/** A file from one practice phone to another: through the product's pipe, against the same two HTTP hops and one digest done plainly; and the memory of it at 1 GB and 20 GB. */
export async function measurePipe({ adminUrl }: BenchShop): Promise<void> {
  process.env.CORVEND_TEST_ADMIN_URL = adminUrl
  const shop = await openShop()
  const share = Number(process.env.CORVEND_MEDIA_SHARE ?? 1)
  const sizes = [pipeBytes, Math.round(1_000_000_000 * share), Math.round(20_000_000_000 * share)]
  try {
    await plugPipe(shop, sizes)
    const link = shop.services.config.station!.link
    const handle = 'v1-1'
    const digest = digestOf(1, pipeBytes)
    const [old, now] = [await attach(link, 'PIPE-OLD'), await attach(link, 'PIPE-NEW')]
    const ours = async () => {
      const moved = await streamFile({
        kind: 'videos',
        old,
        now,
        file: { handle, sizeBytes: pipeBytes, digest },
        side: {},
        onBytes: async () => undefined,
      })
      if (!moved) throw new Error('not what was sent')
    }
    const plain = async () => {
      if ((await plainly(link, { old: old.id, now: now.id, handle })) !== digest) throw new Error('not what was sent')
    }
    const { firstMs, secondMs } = await sideBySide(5, ours, plain)
    const rate = (ms: number) => `${(pipeBytes / 1e6 / (ms / 1000)).toFixed(0)} MB/s`
    console.log(`old to new: ${rate(firstMs)} through the pipe, ${rate(secondMs)} plainly`)
    report('bytes a second through the pipe over plain hops', secondMs / firstMs, { atLeast: 0.8 })
    const [small, large] = sizes.slice(1).map((size, i) => peakOf(link, { seed: 2 + i, size }))
    console.log(
      `peak memory: ${(small! / 1024).toFixed(0)} MB at ${(sizes[1]! / 1e9).toFixed(1)} GB, ${(large! / 1024).toFixed(0)} MB at ${(sizes[2]! / 1e9).toFixed(1)} GB`,
    )
    report('peak memory, twenty times the bytes', large! / small!, { atMost: 1.2 })
  } finally {
    await shop.close()
  }
}

/** Two phones in ports, one with films of those sizes, the other with room for them. */
export async function plugPipe(shop: TestShop, films: readonly number[]): Promise<void> {
  for (const [i, serial] of ['PIPE-OLD', 'PIPE-NEW'].entries()) {
    await shop.hand('phones', { serial, model: 'Orrin 9', settle_ms: 40 })
    await shop.hand(`phones/${serial}/plug`, { port: i + 1 })
    await shop.hand(`phones/${serial}/trust`, {})
    await shop.hand(`phones/${serial}/set`, { free_bytes: 60_000_000_000 })
    if (i === 0)
      for (const [n, film] of films.entries()) await shop.hand(`phones/${serial}/fill`, { kind: 'videos', seed: 1 + n, count: 0, film })
  }
}

export async function attach(link: LinkServer, serial: string): Promise<Attached & { id: string }> {
  const answer = await fetch(`${link.url}/phones/${serial}/attach`, {
    method: 'POST',
    headers: { authorization: `Bearer ${link.token}`, 'content-type': 'application/json' },
    body: '{}',
  })
  const { connection: id } = (await answer.json()) as { connection: string }
  return { id, ...attachedTo(connectionOver(link, serial, id), undefined as never) }
}

export function digestOf(seed: number, size: number): string {
  const hash = createHash('sha256')
  for (const piece of piecesOf({ media: longFilm(seed, size) })) hash.update(piece)
  return hash.digest('base64url')
}

/** The same two hops, and the same one digest. */
async function plainly({ url, token }: LinkServer, { old, now, handle }: { old: string; now: string; handle: string }): Promise<string> {
  const hash = createHash('sha256')
  const headers = (connection: string) => ({ authorization: `Bearer ${token}`, 'x-link-connection': connection })
  const from = await fetch(`${url}/phones/PIPE-OLD/kinds/videos/file?handle=${handle}`, { headers: headers(old) })
  async function* counted() {
    for await (const chunk of from.body as unknown as AsyncIterable<Uint8Array>) {
      hash.update(chunk)
      yield chunk
    }
  }
  const to = await fetch(`${url}/phones/PIPE-NEW/kinds/videos/file`, {
    method: 'POST',
    headers: { ...headers(now), 'content-type': 'application/octet-stream' },
    body: counted(),
    duplex: 'half',
    redirect: 'error',
    window: null,
  } as unknown as RequestInit)
  await to.json()
  return hash.digest('base64url')
}

function peakOf(link: LinkServer, { seed, size }: { seed: number; size: number }): number {
  const child = spawnSync(process.execPath, ['--max-old-space-size=128', '--import', 'tsx', 'bench/pipe-child.ts'], {
    encoding: 'utf8',
    env: {
      ...process.env,
      PIPE_URL: link.url,
      PIPE_TOKEN: link.token,
      PIPE_SEED: String(seed),
      PIPE_SIZE: String(size),
      PIPE_DIGEST: digestOf(seed, size),
    },
  })
  if (child.status !== 0) throw new Error(child.stderr)
  return Number(child.stdout.trim().split('\n').at(-1))
}
