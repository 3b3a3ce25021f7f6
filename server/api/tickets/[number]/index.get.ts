import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { readTicket } from '../../../tickets/read-ticket.ts'

export default answer({}, ({ event, services, staff }) => readTicket(services, getRouterParam(event, 'number')!, staff.id))
