import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { startCountIn } from '../../../desk/count-in/act.ts'

export default answer({}, async (call) => ({
  run: await startCountIn(call.services, getRouterParam(call.event, 'number')!, call.staff.id),
}))
