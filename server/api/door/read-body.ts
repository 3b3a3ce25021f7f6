import type { IncomingMessage } from 'node:http'
import { mostDepth } from '#contracts/http/route.ts'
import { Problem } from '../../base/problem.ts'

/**
 * The JSON of a request: no larger than its contract says, told while it is read, of valid UTF-8, not nested too deep,
 * no text with a NUL, which the database can't keep.
 * @throws Problem `BodyTooLarge`, `BadRequest`
 */
export async function readJson(request: IncomingMessage, mostBytes: number): Promise<unknown> {
  const bytes = await readBytes(request, mostBytes)
  if (bytes.length === 0) return {}
  let value: unknown
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    if (isTooDeep(text)) throw new Problem('BadRequest', { fields: ['too deep'] })
    value = JSON.parse(text)
  } catch (error) {
    throw error instanceof Problem ? error : new Problem('BadRequest', { fields: ['not JSON'] })
  }
  const nul = pathOfNul(value)
  if (nul !== undefined) throw new Problem('BadRequest', { fields: [nul] })
  return value
}

/** So much more of a body that is too large is read and thrown away, so that who sent it hears why it was refused. Bytes. */
const politeBytes = 4_000_000

async function readBytes(request: IncomingMessage, mostBytes: number): Promise<Buffer> {
  if (Number(request.headers['content-length'] ?? 0) > mostBytes + politeBytes) throw new Problem('BodyTooLarge')
  const chunks: Buffer[] = []
  let size = 0
  for await (const chunk of request as AsyncIterable<Buffer>) {
    size += chunk.length
    if (size > mostBytes + politeBytes) throw new Problem('BodyTooLarge')
    if (size <= mostBytes) chunks.push(chunk)
  }
  if (size > mostBytes) throw new Problem('BodyTooLarge')
  return Buffer.concat(chunks)
}

/** Told from the text, before anything walks into it. */
function isTooDeep(text: string): boolean {
  let depth = 0
  let isString = false
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i)
    if (isString) {
      if (c === 0x5c) i++
      else if (c === 0x22) isString = false
    } else if (c === 0x22) isString = true
    else if (c === 0x7b || c === 0x5b) {
      if (++depth > mostDepth) return true
    } else if (c === 0x7d || c === 0x5d) depth--
  }
  return false
}

function pathOfNul(value: unknown, path = ''): string | undefined {
  if (typeof value === 'string') return value.includes('\0') ? path : undefined
  if (typeof value !== 'object' || value === null) return undefined
  for (const [key, held] of Object.entries(value)) {
    const found = key.includes('\0') ? path : pathOfNul(held, path ? `${path}.${key}` : key)
    if (found !== undefined) return found
  }
  return undefined
}
