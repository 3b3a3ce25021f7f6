import { getRouterParam } from 'h3'
import { monthsBody } from '#contracts/http/media.ts'
import { answer } from '../../answer.ts'
import { readMonths } from '../../../desk/items/months.ts'

export default answer({ body: monthsBody }, async (call) =>
  readMonths(call.services, getRouterParam(call.event, 'number')!, { kind: call.body.kind, staffId: call.staff.id }),
)
