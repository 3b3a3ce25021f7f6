import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { stopTicketRun } from '../../../tickets/act.ts'

export default answer({}, async (call) => stopTicketRun(call.services, getRouterParam(call.event, 'number')!))
