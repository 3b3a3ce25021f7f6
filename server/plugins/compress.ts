import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'
import { appendResponseHeader, getRequestHeader, getResponseHeader, setResponseHeader } from 'h3'

/** Smaller answers fit into one packet as they are. */
const leastBytes = 1_400
const isText = /^(application\/(json|problem\+json)|text\/)/
/** Answers are made for one reader each: pressed quickly, not hard. Files are pressed hard, when they are built. */
const quick = { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } }
const press = {
  br: (bytes: Buffer) => promisify(brotliCompress)(bytes, quick),
  gzip: (bytes: Buffer) => promisify(gzip)(bytes, { level: 4 }),
} as const

/** Presses what is sent as text, off the event loop; what streams, and pictures, go as they are. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('beforeResponse', async (event, response) => {
    const { body } = response as { body?: unknown }
    if (event.node.res.headersSent || getResponseHeader(event, 'content-encoding')) return
    const isJson = typeof body === 'object' && body !== null && (Array.isArray(body) || Object.getPrototypeOf(body) === Object.prototype)
    if (!isJson && typeof body !== 'string') return
    const type = String(getResponseHeader(event, 'content-type') ?? (isJson ? 'application/json' : 'text/html'))
    if (!isText.test(type)) return
    const accepted = getRequestHeader(event, 'accept-encoding') ?? ''
    const method = /\bbr\b/.test(accepted) ? 'br' : /\bgzip\b/.test(accepted) ? 'gzip' : undefined
    appendResponseHeader(event, 'vary', 'accept-encoding')
    if (!method) return
    const bytes = Buffer.from(isJson ? JSON.stringify(body) : (body as string))
    if (bytes.length < leastBytes) return
    setResponseHeader(event, 'content-type', type)
    setResponseHeader(event, 'content-encoding', method)
    response.body = await press[method](bytes)
  })
})
