import { getRouterParam } from 'h3'
import { acceptBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../answer.ts'
import { acceptDifference } from '../../../../../desk/check-off/act.ts'

export default answer({ body: acceptBody }, async (call) =>
  acceptDifference(call.services, getRouterParam(call.event, 'number')!, { kind: getRouterParam(call.event, 'kind')!, by: call.body.by }),
)
