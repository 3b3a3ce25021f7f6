import { getRouterParam } from 'h3'
import { showBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { show } from '../../../desk/items/show.ts'

export default answer({ body: showBody }, async (call) =>
  show(call.services, getRouterParam(call.event, 'number')!, { reason: call.body.reason, staffId: call.staff.id }),
)
