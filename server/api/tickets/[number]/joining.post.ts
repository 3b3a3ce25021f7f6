import { getRouterParam } from 'h3'
import { joiningBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { readJoining } from '../../../desk/choose/joinings.ts'

export default answer({ body: joiningBody }, async (call) =>
  readJoining(call.services, getRouterParam(call.event, 'number')!, { ...call.body, staffId: call.staff.id }),
)
