import { getRouterParam } from 'h3'
import { answer } from '../../../../http/answer.ts'
import { readApps } from '../../../../apps/apps.ts'

export default answer({}, async (call) => readApps(call.services, getRouterParam(call.event, 'number')!, call.staff.id))
