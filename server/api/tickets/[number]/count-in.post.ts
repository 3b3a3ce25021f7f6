import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { startCountIn } from '../../../tickets/act.ts'

export default answer({}, async (call) => ({
  run: await startCountIn(call.services, getRouterParam(call.event, 'number')!, call.staff.id),
}))
