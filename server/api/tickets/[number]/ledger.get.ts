import { getRouterParam } from 'h3'
import { answer } from '../../answer.ts'
import { readTicket } from '../../../desk/read-ticket.ts'

export default answer({}, async ({ event, services, staff }) => {
  const { ledger } = await readTicket(services, getRouterParam(event, 'number')!, staff.id)
  return { kinds: ledger }
})
