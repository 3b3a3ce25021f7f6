import { constants, createGzip } from 'node:zlib'
import { getRequestHeader, type H3Event } from 'h3'

interface StreamEvent {
  readonly id?: string
  readonly event: string
  /** One line. */
  readonly data: string
}

/**
 * Answers with a stream of events (HTML Living Standard, 9.2), pressed where the browser takes it: each event is flushed
 * at once, so that none waits in the press for the next.
 * @param onClosed called once, when the browser or {@link close} ended it
 */
export function openEventStream(event: H3Event, onClosed: () => void) {
  const { res } = event.node
  const isPressed = /\bgzip\b/.test(getRequestHeader(event, 'accept-encoding') ?? '')
  res.writeHead(200, {
    'content-type': 'text/event-stream',
    'cache-control': 'private, no-cache, no-store, no-transform, must-revalidate, max-age=0',
    'x-accel-buffering': 'no',
    vary: 'accept-encoding',
    ...(isPressed ? { 'content-encoding': 'gzip' } : {}),
  })
  res.flushHeaders()
  // it has answered itself
  event._handled = true
  const press = isPressed ? createGzip({ level: 4, flush: constants.Z_SYNC_FLUSH }) : undefined
  press?.on('error', () => res.destroy())
  press?.pipe(res)
  const out = press ?? res
  let isOpen = true
  const ended = () => {
    isOpen = false
    press?.destroy()
    onClosed()
  }
  // a browser that went while its place was looked up closes nothing any more
  if (res.destroyed) setImmediate(ended)
  else res.once('close', ended)
  return {
    push({ id, event: name, data }: StreamEvent): void {
      if (isOpen) out.write(`${id === undefined ? '' : `id: ${id}\n`}event: ${name}\ndata: ${data}\n\n`)
    },
    close(): void {
      // what is told from now on comes too late, and is no write after the end
      isOpen = false
      out.end()
    },
  }
}
