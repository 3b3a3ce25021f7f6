import { getRouterParam } from 'h3'
import { markPortBody } from '#contracts/http/ready.ts'
import { markPort } from '../../../endpoints/ports.ts'
import { answer } from '../../answer.ts'

export default answer({ body: markPortBody }, async ({ event, services, body }) =>
  markPort(services, Number(getRouterParam(event, 'port')), body.text),
)
