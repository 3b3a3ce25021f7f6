import { getRouterParam } from 'h3'
import { eraseBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { handBackAndErase } from '../../../desk/hand-back/erase.ts'

export default answer({ body: eraseBody }, async (call) =>
  handBackAndErase(call.services, getRouterParam(call.event, 'number')!, call.body.typed),
)
