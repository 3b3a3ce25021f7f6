import { getRouterParam } from 'h3'
import { joiningsBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { readJoinings } from '../../../desk/choose/joinings.ts'

export default answer({ body: joiningsBody }, async (call) =>
  readJoinings(call.services, getRouterParam(call.event, 'number')!, { wish: call.body, staffId: call.staff.id }),
)
