import { getRouterParam } from 'h3'
import { carryBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { startCarry } from '../../../desk/carry/act.ts'

export default answer({ body: carryBody }, async (call) => ({
  run: await startCarry(call.services, getRouterParam(call.event, 'number')!, { body: call.body, staffId: call.staff.id }),
}))
