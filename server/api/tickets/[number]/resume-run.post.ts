import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { resumeTicketRun } from '../../../tickets/act.ts'

export default answer({}, async (call) => resumeTicketRun(call.services, getRouterParam(call.event, 'number')!))
