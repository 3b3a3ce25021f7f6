import { getRouterParam } from 'h3'
import { movedBody } from '#contracts/http/media.ts'
import { answer } from '../../../answer.ts'
import { markMoved } from '../../../../desk/choose/apps.ts'

export default answer({ body: movedBody }, async (call) =>
  markMoved(call.services, getRouterParam(call.event, 'number')!, { body: call.body, staffId: call.staff.id }),
)
