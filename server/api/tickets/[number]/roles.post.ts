import { getRouterParam } from 'h3'
import { rolesBody } from '#contracts/http/ticket.ts'
import { readBench, seenPhones } from '../../../bench/ports.ts'
import { answer } from '../../../http/answer.ts'
import { setRoles } from '../../../tickets/roles.ts'

export default answer({ body: rolesBody }, async ({ event, services, body }) =>
  setRoles(services, getRouterParam(event, 'number')!, body, seenPhones(await readBench(services))),
)
