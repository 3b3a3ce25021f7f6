import { getHeader, setResponseHeader, setResponseStatus, type H3Event } from 'h3'
import { routes } from '#contracts/http/routes.ts'
import { Problem } from '../../base/problem.ts'
import { lockTakeHome, openTakeHome } from '../../desk/take-home/act.ts'
import { serve, serveRaw } from '../door/door.ts'
import { sendBytes } from '../door/send-bytes.ts'

/** What a customer takes home as files. */
export const takeHome = [
  serveRaw(routes.takeHome, async ({ event, services, actor, params }) => {
    const asked = getHeader(event, 'range')
    const { name, tag, bytes } = await openTakeHome(services, params.number, {
      actor,
      isBegun: event.method === 'HEAD' || (asked !== undefined && !/^bytes=0-/.test(asked)),
    })
    const { sizeBytes } = bytes
    setResponseHeader(event, 'content-type', 'application/zip')
    setResponseHeader(event, 'content-disposition', `attachment; filename="${name}"`)
    setResponseHeader(event, 'accept-ranges', 'bytes')
    setResponseHeader(event, 'etag', tag)
    const range = rangeOf(event, { asked, tag, sizeBytes })
    if (range === 'none') {
      setResponseHeader(event, 'content-range', `bytes */${sizeBytes}`)
      throw new Problem('RangeNotThere')
    }
    const { from, to } = range ?? { from: 0, to: sizeBytes }
    if (range) {
      setResponseStatus(event, 206)
      setResponseHeader(event, 'content-range', `bytes ${from}-${to - 1}/${sizeBytes}`)
    }
    setResponseHeader(event, 'content-length', to - from)
    if (event.method === 'HEAD') return ''
    return sendBytes(event, services, bytes.read({ from, to }))
  }),
  serve(routes.lockTakeHome, ({ services, actor, params, body }) => lockTakeHome(services, params.number, { ...body, actor })),
]

/**
 * The one part that is asked for (RFC 9110, 14.1.2 and 13.1.5); undefined for the whole, also where several are asked
 * for or it was of another archive; `none` where there is no such part.
 */
function rangeOf(
  event: H3Event,
  { asked, tag, sizeBytes }: { asked: string | undefined; tag: string; sizeBytes: number },
): { from: number; to: number } | 'none' | undefined {
  const match = /^bytes=(\d{0,15})-(\d{0,15})$/.exec(asked ?? '')
  if (!match || (match[1] === '' && match[2] === '')) return undefined
  const condition = getHeader(event, 'if-range')
  if (condition !== undefined && condition !== tag) return undefined
  const from = match[1] === '' ? Math.max(0, sizeBytes - Number(match[2])) : Number(match[1])
  const to = match[1] === '' || match[2] === '' ? sizeBytes : Math.min(sizeBytes, Number(match[2]) + 1)
  return from >= sizeBytes || to <= from ? 'none' : { from, to }
}
