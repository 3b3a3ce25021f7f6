import { getRouterParam } from 'h3'
import { answer } from '../../../../../http/answer.ts'
import { carryLostAgain } from '../../../../../tickets/act.ts'

export default answer({}, async (call) => ({
  waiting: await carryLostAgain(call.services, getRouterParam(call.event, 'number')!, getRouterParam(call.event, 'kind')!),
}))
