import { defineEventHandler, getHeader, getRequestURL, setResponseHeader, setResponseStatus } from 'h3'
import { errors, type ErrorCode } from '#contracts/errors.ts'
import { getConfig } from '../base/config.ts'

/** Refuses an unknown host, and on writes another site's origin and any content but the expected one. */
export default defineEventHandler((event) => {
  const host = (getHeader(event, 'host') ?? '').replace(/:\d+$/, '')
  const refuse = (code: ErrorCode) => {
    setResponseStatus(event, errors[code].status)
    setResponseHeader(event, 'content-type', 'application/problem+json')
    return { type: `/problems/${code}`, title: errors[code].sentence, status: errors[code].status, code }
  }
  if (!getConfig().hosts.includes(host)) return refuse('WrongHost')
  if (['GET', 'HEAD'].includes(event.method)) return undefined
  const origin = getHeader(event, 'origin')
  if (origin && new URL(origin).host !== getRequestURL(event).host) return refuse('WrongOrigin')
  const type = getHeader(event, 'content-type') ?? ''
  const isUpload = getRequestURL(event).pathname === '/api/uploads'
  if (!isUpload && !type.startsWith('application/json')) return refuse('WrongContentType')
  if (isUpload && !/^(text\/vcard|application\/octet-stream)/.test(type)) return refuse('WrongContentType')
  return undefined
})
