import { getRouterParam } from 'h3'
import { wayOutBody } from '#contracts/http/media.ts'
import { answer } from '../../answer.ts'
import { takeWayOut } from '../../../desk/choose/act.ts'

export default answer({ body: wayOutBody }, async (call) => takeWayOut(call.services, getRouterParam(call.event, 'number')!, call.body))
