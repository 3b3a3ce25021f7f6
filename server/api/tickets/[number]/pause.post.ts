import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { pauseTicketRun } from '../../../desk/carry/act.ts'

export default answer({}, async (call) => pauseTicketRun(call.services, getRouterParam(call.event, 'number')!))
