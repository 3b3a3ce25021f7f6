import { getRouterParam } from 'h3'
import { handOverBody } from '#contracts/http/ready.ts'
import { answer } from '../../../http/answer.ts'
import { handOver } from '../../../course/course.ts'

export default answer({ body: handOverBody }, async (call) =>
  handOver(call.services, getRouterParam(call.event, 'number')!, { ...call.body, staffId: call.staff.id }),
)
