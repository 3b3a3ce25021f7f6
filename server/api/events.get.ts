import { createEventStream, defineEventHandler, getHeader, getQuery } from 'h3'
import { manyMissed } from '../case/tickets.queries.ts'
import { subscribe, type PageEvent } from '../events/hub.ts'
import { problemOf, staffOf } from './answer.ts'
import { Problem } from '../base/problem.ts'
import { getServices } from '../base/services.ts'

/** One stream a browser: which tickets changed and that the bench did; it resumes by Last-Event-ID. */
export default defineEventHandler(async (event) => {
  const services = getServices()
  try {
    if (!(await staffOf(event, services))) throw new Problem('NotSignedIn')
    const since = Number(getHeader(event, 'last-event-id') ?? getQuery(event).since)
    const missed = Number.isFinite(since) && since > 0 ? await manyMissed(services.pool, since) : []
    const stream = createEventStream(event)
    const tell = ({ seq, ticket, what, bench }: PageEvent) =>
      stream
        .push({ ...(seq === null ? {} : { id: String(seq) }), event: what, data: JSON.stringify(bench ?? { ticket }) })
        .catch(() => undefined)
    const stop = subscribe(tell)
    const beat = setInterval(() => stream.push({ event: 'beat', data: '{}' }).catch(() => undefined), 15_000)
    stream.onClosed(async () => {
      clearInterval(beat)
      stop()
      await stream.close()
    })
    setTimeout(() => {
      void tell({ seq: null, ticket: null, what: 'bench' })
      for (const { ticket, seq } of missed) void tell({ ticket, seq, what: 'ticket' })
    }, 0)
    return stream.send()
  } catch (error) {
    return problemOf(event, services, error)
  }
})
