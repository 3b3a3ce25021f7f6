import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { readSheet } from '../../../handback/sheet.ts'

export default answer({}, async (call) => readSheet(call.services, getRouterParam(call.event, 'number')!, call.staff.id))
