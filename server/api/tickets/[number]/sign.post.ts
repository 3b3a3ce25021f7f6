import { getRouterParam } from 'h3'
import { signBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { sign } from '../../../desk/hand-back/act.ts'

export default answer({ body: signBody }, ({ event, services, body }) => sign(services, getRouterParam(event, 'number')!, body))
