import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { show } from '../../../tickets/act.ts'

export default answer({}, async (call) =>
  show(call.services, getRouterParam(call.event, 'number')!, { reason: 'ended', staffId: call.staff.id }),
)
