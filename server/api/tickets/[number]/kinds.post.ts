import { getRouterParam } from 'h3'
import { kindsBody } from '#contracts/http/ticket.ts'
import { answer } from '../../answer.ts'
import { changeKinds } from '../../../desk/book-in/kinds.ts'

export default answer({ body: kindsBody }, async (call) => changeKinds(call.services, getRouterParam(call.event, 'number')!, call.body))
