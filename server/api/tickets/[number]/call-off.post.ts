import { getRouterParam } from 'h3'
import { callOffBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { callOff } from '../../../desk/hand-back/act.ts'

export default answer({ body: callOffBody }, ({ event, services, staff, body }) =>
  callOff(services, getRouterParam(event, 'number')!, { body, staffId: staff.id }),
)
