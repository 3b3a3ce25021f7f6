import { getRouterParam } from 'h3'
import { searchBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { readEntries } from '../../../desk/items/entries.ts'

export default answer({ body: searchBody }, async (call) =>
  readEntries(call.services, getRouterParam(call.event, 'number')!, { search: call.body, staffId: call.staff.id }),
)
