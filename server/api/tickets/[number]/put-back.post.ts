import { getRouterParam } from 'h3'
import { putBackBody } from '#contracts/http/ready.ts'
import { answer } from '../../answer.ts'
import { setPutBack } from '../../../ready/act-ready.ts'

export default answer({ body: putBackBody }, async (call) =>
  setPutBack(call.services, getRouterParam(call.event, 'number')!, { body: call.body, staffId: call.staff.id }),
)
