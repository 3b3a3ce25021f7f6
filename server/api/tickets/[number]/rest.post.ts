import { getRouterParam } from 'h3'
import { restBody } from '#contracts/http/ready.ts'
import { answer } from '../../answer.ts'
import { rest } from '../../../desk/course.ts'

export default answer({ body: restBody }, async (call) =>
  rest(call.services, getRouterParam(call.event, 'number')!, { words: call.body.words, staffId: call.staff.id }),
)
