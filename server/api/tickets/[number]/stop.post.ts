import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { stopTicketRun } from '../../../desk/carry/act.ts'

export default answer({}, async (call) => stopTicketRun(call.services, getRouterParam(call.event, 'number')!))
