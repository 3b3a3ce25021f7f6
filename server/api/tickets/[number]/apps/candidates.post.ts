import { getRouterParam } from 'h3'
import { appBody } from '#contracts/http/media.ts'
import { answer } from '../../../answer.ts'
import { readCandidates } from '../../../../desk/choose/apps.ts'

export default answer({ body: appBody }, async (call) =>
  readCandidates(call.services, getRouterParam(call.event, 'number')!, { key: call.body.key, staffId: call.staff.id }),
)
