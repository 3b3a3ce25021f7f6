import { getRouterParam } from 'h3'
import { answer } from '../../../http/answer.ts'
import { readTicket } from '../../../tickets/read-ticket.ts'

export default answer({}, async ({ event, services, staff }) => {
  const { ledger } = await readTicket(services, getRouterParam(event, 'number')!, staff.id)
  return { kinds: ledger }
})
