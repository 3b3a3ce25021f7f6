import { defineEventHandler, getHeader, getRequestURL } from 'h3'
import { keepConnection } from '#contracts/connections.ts'
import { getConfig } from '../base/config.ts'
import { sayProblem } from '../api/door/problems.ts'
import { refusalOf } from '../api/door/origins.ts'

/** Keeps the connection as long as it must be; refuses an unknown host, and anything another site sends. */
export default defineEventHandler((event) => {
  keepConnection(event.node.req, event.node.res)
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
