import { getRouterParam } from 'h3'
import { decideBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../answer.ts'
import { decide } from '../../../../../desk/choose/joinings.ts'

export default answer({ body: decideBody }, async (call) =>
  decide(call.services, getRouterParam(call.event, 'number')!, { kind: getRouterParam(call.event, 'kind')!, body: call.body }),
)
