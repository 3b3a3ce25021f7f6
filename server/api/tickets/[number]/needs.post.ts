import { getRouterParam } from 'h3'
import { needBody } from '#contracts/http/ready.ts'
import { answer } from '../../answer.ts'
import { setNeed } from '../../../ready/act-ready.ts'

export default answer({ body: needBody }, async (call) =>
  setNeed(call.services, getRouterParam(call.event, 'number')!, { body: call.body, staffId: call.staff.id }),
)
