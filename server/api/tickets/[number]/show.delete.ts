import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { show } from '../../../desk/items/show.ts'

export default answer({}, async (call) =>
  show(call.services, getRouterParam(call.event, 'number')!, { reason: 'ended', staffId: call.staff.id }),
)
