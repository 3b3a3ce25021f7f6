import { getRouterParam } from 'h3'
import { groupsBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { readGroups } from '../../../desk/items/entries.ts'

export default answer({ body: groupsBody }, async (call) =>
  readGroups(call.services, getRouterParam(call.event, 'number')!, { wish: call.body, staffId: call.staff.id }),
)
