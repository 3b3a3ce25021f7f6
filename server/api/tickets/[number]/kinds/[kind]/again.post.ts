import { getRouterParam } from 'h3'
import { againBody } from '#contracts/http/ticket.ts'
import { answer } from '../../../../answer.ts'
import { putBackToWait } from '../../../../../desk/check-off/act.ts'

export default answer({ body: againBody }, async ({ event, services, body }) => ({
  waiting: await putBackToWait(services, getRouterParam(event, 'number')!, { kind: getRouterParam(event, 'kind')!, ...body }),
}))
