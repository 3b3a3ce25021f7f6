import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { startCheck } from '../../../tickets/act.ts'

export default answer({}, async (call) => ({ run: await startCheck(call.services, getRouterParam(call.event, 'number')!, call.staff.id) }))
