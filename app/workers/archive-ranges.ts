import { Reader, type CreateReadableOptions } from '@zip.js/zip.js'
import { ArchiveUnread } from './archive.ts'

/** No answer, or none of use; another try may bring one. */
class NotNow extends Error {}

/** A connection on which nothing is heard for so long is none. */
const silentMs = 30_000
/** What is waited before each further try to go on; then it is given up. */
const waitsMs: readonly number[] = [300, 1000, 3000, 10_000]

/**
 * An archive where it was made, by the parts that are asked for (RFC 9110, 14.2). A part is taken whole before the next
 * is asked for; one that breaks off goes on where it was; of another archive, made meanwhile, nothing is taken.
 */
export class ArchiveRanges extends Reader<string> {
  private tag = ''

  constructor(
    private readonly url: string,
    private readonly sleep: (ms: number) => Promise<void> = (ms) => new Promise((done) => setTimeout(done, ms)),
  ) {
    super(url)
  }

  /** @throws ArchiveUnread `no-zip` where there is none; `unreadable` when nothing answers */
  override async init(): Promise<void> {
    for (let tries = 0; ; tries++) {
      const response = await answered(this.url, { method: 'HEAD' }).catch(unlessUnread)
      if (response && !response.ok) throw new ArchiveUnread('no-zip')
      if (response) {
        this.size = Number(response.headers.get('content-length'))
        this.tag = response.headers.get('etag') ?? ''
        return super.init?.()
      }
      await this.rest(tries)
    }
  }

  override createReadable({ offset = 0, size = this.size - offset }: CreateReadableOptions = {}): ReadableStream<Uint8Array> {
    const pieces = this.pieces(offset, Math.min(this.size, offset + size))
    return new ReadableStream({
      async pull(controller) {
        const next = await pieces.next()
        if (next.done) controller.close()
        else controller.enqueue(next.value)
      },
      async cancel() {
        await pieces.return()
      },
    })
  }

  override async readUint8Array(index: number, length: number): Promise<Uint8Array> {
    const to = Math.min(this.size, index + length)
    const out = new Uint8Array(Math.max(0, to - index))
    let at = 0
    for await (const piece of this.pieces(index, to)) {
      out.set(piece, at)
      at += piece.length
    }
    return out
  }

  private async *pieces(from: number, to: number): AsyncGenerator<Uint8Array, void> {
    for (let at = from, tries = 0; at < to;) {
      const body = await this.part(at, to).catch(unlessUnread)
      try {
        for (let next = await read(body); next; next = await read(body)) {
          at += next.length
          tries = 0
          yield next
        }
      } finally {
        await body?.cancel().catch(() => undefined)
      }
      if (at < to) await this.rest(tries++)
    }
  }

  private async part(from: number, to: number): Promise<ReadableStreamDefaultReader<Uint8Array>> {
    const response = await answered(this.url, { headers: { range: `bytes=${from}-${to - 1}`, 'if-range': this.tag } })
    if (response.status !== 206) {
      await response.body?.cancel()
      throw new ArchiveUnread('another')
    }
    return response.body!.getReader()
  }

  /** @throws ArchiveUnread `unreadable` when it was tried often enough */
  private async rest(tries: number): Promise<void> {
    const wait = waitsMs[tries]
    if (wait === undefined) throw new ArchiveUnread('unreadable')
    await this.sleep(wait)
  }
}

/** What goes by is tried again; what another try does not change is not. */
function unlessUnread(error: unknown): undefined {
  if (error instanceof ArchiveUnread) throw error
}

/**
 * An answer of the server's own; that it can't answer now is an error like no answer. A browser's store of what it has
 * seen would let the parts of one address wait for each other.
 */
async function answered(url: string, how: RequestInit): Promise<Response> {
  const ends = new AbortController()
  const response = await heard(fetch(url, { ...how, cache: 'no-store', signal: ends.signal })).catch((error: unknown) => {
    ends.abort()
    throw error
  })
  if (response.status >= 500) throw new NotNow()
  return response
}

/** The next piece; undefined at the end, and where the connection breaks off: what lacks is asked for again. */
async function read(body: ReadableStreamDefaultReader<Uint8Array> | undefined): Promise<Uint8Array | undefined> {
  const next = body && (await heard(body.read()).catch(() => undefined))
  return next?.done === false ? next.value : undefined
}

/** @throws NotNow when nothing was heard for too long */
async function heard<T>(promise: Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout>
  const silence = new Promise<never>((_, fail) => {
    timer = setTimeout(() => fail(new NotNow()), silentMs)
  })
  return Promise.race([promise, silence]).finally(() => clearTimeout(timer))
}
