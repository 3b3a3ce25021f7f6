import { getRouterParam } from 'h3'
import { answer } from '../../../answer.ts'
import { readApps } from '../../../../desk/choose/apps.ts'

export default answer({}, async (call) => readApps(call.services, getRouterParam(call.event, 'number')!, call.staff.id))
