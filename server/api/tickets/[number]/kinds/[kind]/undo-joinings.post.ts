import { getRouterParam } from 'h3'
import { undoBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../../http/answer.ts'
import { undoJoinings } from '../../../../../joining/joinings.ts'

export default answer({ body: undoBody }, async (call) => ({
  run: String(
    await undoJoinings(call.services, getRouterParam(call.event, 'number')!, {
      kind: getRouterParam(call.event, 'kind')!,
      keys: call.body.keys,
      staffId: call.staff.id,
    }),
  ),
}))
