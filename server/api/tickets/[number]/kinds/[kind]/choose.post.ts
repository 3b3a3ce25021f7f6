import { getRouterParam } from 'h3'
import { chooseBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../answer.ts'
import { choose } from '../../../../../desk/choose/act.ts'

export default answer({ body: chooseBody }, async (call) =>
  choose(call.services, getRouterParam(call.event, 'number')!, { kind: getRouterParam(call.event, 'kind')!, body: call.body }),
)
