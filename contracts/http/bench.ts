import { z } from 'zod'
import { phoneReady } from './ready.ts'
import { phoneOnTicket, stage, todayView } from './ticket.ts'

/**
 * What the event stream says when something on the bench changed: the ports as they are, and the parts of tickets
 * that follow from them, so that a page needs to ask nothing.
 */
export const benchEvent = todayView.pick({ moment: true, ports: true, isBenchSeen: true, unseenStations: true }).extend({
  tickets: z.array(
    z.object({ number: z.string(), stage, old: phoneOnTicket, new: phoneOnTicket, ready: z.object({ old: phoneReady, new: phoneReady }) }),
  ),
})
export type BenchEvent = z.infer<typeof benchEvent>
