import { afterEach, describe, expect, it, vi } from 'vitest'
import { TextWriter, Uint8ArrayWriter, ZipWriter, TextReader, type FileEntry, ZipReader } from '@zip.js/zip.js'
import { openArchive } from './archive.ts'
import { ArchiveRanges } from './archive-ranges.ts'

const url = 'http://shop.test/archive'
const noSleep = async () => undefined

async function archive(texts: Record<string, string>): Promise<Uint8Array> {
  const zip = new ZipWriter(new Uint8ArrayWriter())
  for (const [name, text] of Object.entries(texts)) await zip.add(name, new TextReader(text))
  return zip.close()
}

/** A server that gives parts of what it has, and does to each answer what a test says. */
function serve(bytes: () => Uint8Array, { tag = (): string => '"a"', breaks = () => false as boolean | number } = {}) {
  const asked: string[] = []
  vi.stubGlobal('fetch', async (_: string, { method, headers }: { method?: string; headers?: Record<string, string> }) => {
    const all = bytes()
    if (method === 'HEAD') return new Response(null, { headers: { 'content-length': String(all.length), etag: tag() } })
    const broken = breaks()
    if (broken === true) throw new TypeError('network')
    const [, from, to] = /^bytes=(\d+)-(\d+)$/.exec(headers!.range!)!
    asked.push(`${from}-${to}`)
    if (headers!['if-range'] !== tag()) return new Response(all as BodyInit, { status: 200, headers: { etag: tag() } })
    const part = all.slice(Number(from), Number(to) + 1)
    if (broken === false) return new Response(part, { status: 206, headers: { etag: tag() } })
    // so many bytes, and then the connection is gone
    const pieces = [part.slice(0, broken)].filter(({ length }) => length > 0)
    const body = new ReadableStream({
      pull: (controller) => (pieces.length > 0 ? controller.enqueue(pieces.shift()!) : controller.error(new TypeError('network'))),
    })
    return new Response(body, { status: 206, headers: { etag: tag() } })
  })
  return asked
}

async function readAll(): Promise<Record<string, string>> {
  const entries = await new ZipReader(new ArchiveRanges(url, noSleep)).getEntries()
  const found: Record<string, string> = {}
  for (const entry of entries as FileEntry[]) found[entry.filename] = await entry.getData(new TextWriter(), { checkSignature: true })
  return found
}

afterEach(() => vi.unstubAllGlobals())

describe('an archive read by parts', () => {
  const texts = { 'a.txt': 'a'.repeat(5000), 'empty.txt': '', 'b.txt': Array.from({ length: 900 }, (_, i) => i).join(' ') }

  it('is what it is', async () => {
    const whole = await archive(texts)
    const asked = serve(() => whole)
    expect(await readAll()).toEqual(texts)
    expect(asked.length).toBeGreaterThan(3)
  })

  it('goes on where it was when parts break off, and asks for no byte twice', async () => {
    const whole = await archive(texts)
    let n = 0
    const asked = serve(() => whole, { breaks: () => (++n % 3 === 1 ? true : n % 3 === 2 ? 7 : false) })
    expect(await readAll()).toEqual(texts)
    const resumed = asked.filter((part, i) => i > 0 && part.split('-')[1] === asked[i - 1]!.split('-')[1])
    expect(resumed.length).toBeGreaterThan(0)
    expect(resumed.every((part, i) => Number(part.split('-')[0]) >= Number(asked[asked.indexOf(resumed[i]!) - 1]!.split('-')[0]))).toBe(
      true,
    )
  })

  it('is given up when nothing comes any more, and begins anew each time something came', async () => {
    const whole = await archive(texts)
    serve(() => whole, { breaks: () => 0 })
    await expect(new ArchiveRanges(url, noSleep).readUint8Array(0, 4)).resolves.toHaveLength(0)
    const ranges = new ArchiveRanges(url, noSleep)
    await ranges.init()
    await expect(ranges.readUint8Array(0, 4)).rejects.toMatchObject({ issue: 'unreadable' })
    serve(() => whole, { breaks: () => 1 })
    expect(await ranges.readUint8Array(0, 30)).toEqual(whole.slice(0, 30))
  })

  it('asks again where a connection says nothing', async () => {
    vi.useFakeTimers()
    const whole = await archive(texts)
    let n = 0
    vi.stubGlobal('fetch', (_: string, { method, signal }: RequestInit) =>
      method === 'HEAD'
        ? Promise.resolve(new Response(null, { headers: { 'content-length': String(whole.length), etag: '"a"' } }))
        : n++ === 0
          ? new Promise((__, fail) => signal!.addEventListener('abort', () => fail(new Error('left'))))
          : Promise.resolve(new Response(whole.slice(0, 4) as BodyInit, { status: 206, headers: { etag: '"a"' } })),
    )
    const ranges = new ArchiveRanges(url, noSleep)
    await ranges.init()
    const read = ranges.readUint8Array(0, 4)
    await vi.advanceTimersByTimeAsync(31_000)
    expect([await read, n]).toEqual([whole.slice(0, 4), 2])
    vi.useRealTimers()
  })

  it('says why it could not be opened: nothing comes any more, or it is gone', async () => {
    const whole = await archive(texts)
    serve(() => whole, { breaks: () => 0 })
    await expect(openArchive(new ArchiveRanges(url, noSleep), '')).rejects.toMatchObject({ issue: 'unreadable' })
    vi.stubGlobal('fetch', async () => new Response(null, { status: 404 }))
    await expect(openArchive(new ArchiveRanges(url, noSleep), '')).rejects.toMatchObject({ issue: 'no-zip' })
    serve(() => new Uint8Array(400).fill(7))
    await expect(openArchive(new ArchiveRanges(url, noSleep), '')).rejects.toMatchObject({ issue: 'no-zip' })
  })

  it('takes nothing of another that was made meanwhile', async () => {
    const [one, other] = [await archive(texts), await archive({ ...texts, 'c.txt': 'c' })]
    let isOther = false
    serve(() => (isOther ? other : one), { tag: () => (isOther ? '"b"' : '"a"') })
    const ranges = new ArchiveRanges(url, noSleep)
    const [first] = (await new ZipReader(ranges).getEntries()) as FileEntry[]
    isOther = true
    await expect(first!.getData(new TextWriter())).rejects.toMatchObject({ issue: 'another' })
  })
})
