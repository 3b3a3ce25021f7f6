import { getRouterParam } from 'h3'
import { wayOutBody } from '#contracts/http/media.ts'
import { answer } from '../../../http/answer.ts'
import { takeWayOut } from '../../../tickets/act.ts'

export default answer({ body: wayOutBody }, async (call) => takeWayOut(call.services, getRouterParam(call.event, 'number')!, call.body))
