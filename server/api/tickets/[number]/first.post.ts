import { getRouterParam } from 'h3'
import { firstBody } from '#contracts/http/media.ts'
import { answer } from '../../../http/answer.ts'
import { putFirst } from '../../../tickets/act.ts'

export default answer({ body: firstBody }, async (call) => putFirst(call.services, getRouterParam(call.event, 'number')!, call.body.kind))
