import { getRouterParam } from 'h3'
import { firstBody } from '#contracts/http/media.ts'
import { answer } from '../../answer.ts'
import { putFirst } from '../../../desk/choose/act.ts'

export default answer({ body: firstBody }, async (call) => putFirst(call.services, getRouterParam(call.event, 'number')!, call.body.kind))
