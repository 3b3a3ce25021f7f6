import { getRouterParam } from 'h3'
import { answer } from '../../../answer.ts'
import { readInstallList } from '../../../../desk/choose/apps.ts'

export default answer({}, async (call) => readInstallList(call.services, getRouterParam(call.event, 'number')!, call.staff.id))
