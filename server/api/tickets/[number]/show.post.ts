import { getRouterParam } from 'h3'
import { showBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../http/answer.ts'
import { show } from '../../../tickets/act.ts'

export default answer({ body: showBody }, async (call) =>
  show(call.services, getRouterParam(call.event, 'number')!, { reason: call.body.reason, staffId: call.staff.id }),
)
