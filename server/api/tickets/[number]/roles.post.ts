import { getRouterParam } from 'h3'
import { rolesBody } from '#contracts/http/ticket.ts'
import { readBench, seenPhones } from '../../../endpoints/ports.ts'
import { answer } from '../../answer.ts'
import { setRoles } from '../../../desk/ready/roles.ts'

export default answer({ body: rolesBody }, async ({ event, services, body }) =>
  setRoles(services, getRouterParam(event, 'number')!, body, seenPhones(await readBench(services))),
)
