import { getRouterParam } from 'h3'
import { signBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../http/answer.ts'
import { sign } from '../../../tickets/act.ts'

export default answer({ body: signBody }, async (call) => sign(call.services, getRouterParam(call.event, 'number')!, call.body.by))
