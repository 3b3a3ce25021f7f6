import { getRouterParam } from 'h3'
import { searchBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { countEntries } from '../../../desk/items/entries.ts'

export default answer({ body: searchBody }, async (call) => ({
  total: await countEntries(call.services, getRouterParam(call.event, 'number')!, { search: call.body, staffId: call.staff.id }),
}))
