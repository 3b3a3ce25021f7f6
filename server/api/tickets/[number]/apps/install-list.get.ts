import { getRouterParam } from 'h3'
import { answer } from '../../../../http/answer.ts'
import { readInstallList } from '../../../../apps/apps.ts'

export default answer({}, async (call) => readInstallList(call.services, getRouterParam(call.event, 'number')!, call.staff.id))
