import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { readTicket } from '../../../desk/read-ticket.ts'

export default answer({}, ({ event, services, staff }) => readTicket(services, getRouterParam(event, 'number')!, staff.id))
