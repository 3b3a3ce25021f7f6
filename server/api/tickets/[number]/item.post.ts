import { getRouterParam } from 'h3'
import { itemBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { readItem } from '../../../desk/items/item.ts'

export default answer({ body: itemBody }, async (call) =>
  readItem(call.services, getRouterParam(call.event, 'number')!, { ...call.body, staffId: call.staff.id }),
)
