import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { startCheck } from '../../../desk/check-off/act.ts'

export default answer({}, async (call) => ({ run: await startCheck(call.services, getRouterParam(call.event, 'number')!, call.staff.id) }))
