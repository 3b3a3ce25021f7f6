import { getRouterParam } from 'h3'
import { counterpartBody } from '#contracts/http/media.ts'
import { answer } from '../../../answer.ts'
import { chooseCounterpart } from '../../../../desk/choose/apps.ts'

export default answer({ body: counterpartBody }, async (call) =>
  chooseCounterpart(call.services, getRouterParam(call.event, 'number')!, { body: call.body, staffId: call.staff.id }),
)
