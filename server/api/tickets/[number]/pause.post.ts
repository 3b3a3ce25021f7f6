import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { pauseTicketRun } from '../../../tickets/act.ts'

export default answer({}, async (call) => pauseTicketRun(call.services, getRouterParam(call.event, 'number')!))
