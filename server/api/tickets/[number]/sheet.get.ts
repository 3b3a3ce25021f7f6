import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { readSheet } from '../../../desk/hand-back/sheet.ts'

export default answer({}, async (call) => readSheet(call.services, getRouterParam(call.event, 'number')!, call.staff.id))
