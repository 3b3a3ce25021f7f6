import { getRouterParam } from 'h3'
import { decideBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../../http/answer.ts'
import { decide } from '../../../../../joining/joinings.ts'

export default answer({ body: decideBody }, async (call) =>
  decide(call.services, getRouterParam(call.event, 'number')!, { kind: getRouterParam(call.event, 'kind')!, body: call.body }),
)
