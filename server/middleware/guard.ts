import { defineEventHandler, getHeader, getRequestURL } from 'h3'
import { getConfig } from '../base/config.ts'
import { sayProblem } from '../api/door/problems.ts'
import { refusalOf } from '../api/door/origins.ts'

/** Refuses an unknown host, and anything another site sends. */
export default defineEventHandler((event) => {
  const code = refusalOf({
    hosts: getConfig().hosts,
    method: event.method,
    path: getRequestURL(event).pathname,
    host: getHeader(event, 'host'),
    origin: getHeader(event, 'origin'),
    site: getHeader(event, 'sec-fetch-site'),
  })
  return code ? sayProblem(event, code) : undefined
})
