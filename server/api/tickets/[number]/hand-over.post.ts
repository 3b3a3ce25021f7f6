import { getRouterParam } from 'h3'
import { handOverBody } from '#contracts/http/ready.ts'
import { answer } from '../../answer.ts'
import { handOver } from '../../../desk/course.ts'

export default answer({ body: handOverBody }, async (call) =>
  handOver(call.services, getRouterParam(call.event, 'number')!, { ...call.body, staffId: call.staff.id }),
)
