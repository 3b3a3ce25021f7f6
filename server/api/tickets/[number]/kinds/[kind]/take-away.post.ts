import { getRouterParam } from 'h3'
import { takeAwayBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../answer.ts'
import { takeAway } from '../../../../../desk/check-off/act.ts'

export default answer({ body: takeAwayBody }, async ({ event, services, staff, body }) => ({
  run: await takeAway(services, getRouterParam(event, 'number')!, { kind: getRouterParam(event, 'kind')!, staffId: staff.id, body }),
}))
