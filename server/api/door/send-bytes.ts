import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { H3Event } from 'h3'
import type { Services } from '../../base/services.ts'

/**
 * Answers with bytes as they come. An answer whose turn on its connection is still to come is sent like any other: a
 * browser asks again as soon as it has all the bytes it was told of, before the former answer is known to have ended.
 * What fails before the first byte is a problem like any other; later the connection breaks off, since nothing else
 * says that bytes are missing. Who leaves ends the reading.
 * @throws whatever `bytes` throws before its first piece
 */
export async function sendBytes(event: H3Event, { log }: Pick<Services, 'log'>, bytes: AsyncIterable<Uint8Array>): Promise<void> {
  const pieces = bytes[Symbol.asyncIterator]()
  const first = await pieces.next()
  const whole = async function* () {
    try {
      for (let next = first; !next.done; next = await pieces.next()) yield next.value
    } finally {
      await pieces.return?.()
    }
  }
  // it answers itself
  event._handled = true
  try {
    await pipeline(Readable.from(whole(), { objectMode: false }), event.node.res)
  } catch (error) {
    const { name, code } = error as NodeJS.ErrnoException
    if (code !== 'ERR_STREAM_PREMATURE_CLOSE') log.error({ code: `${name} ${code ?? ''}` }, 'an answer broke off')
  }
}
