import { getRouterParam } from 'h3'
import { undoBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../answer.ts'
import { undoJoinings } from '../../../../../desk/choose/joinings.ts'

export default answer({ body: undoBody }, async (call) => ({
  run: String(
    await undoJoinings(call.services, getRouterParam(call.event, 'number')!, {
      kind: getRouterParam(call.event, 'kind')!,
      keys: call.body.keys,
      staffId: call.staff.id,
    }),
  ),
}))
