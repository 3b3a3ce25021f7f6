import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { resumeTicketRun } from '../../../desk/carry/act.ts'

export default answer({}, async (call) => resumeTicketRun(call.services, getRouterParam(call.event, 'number')!))
