import { getRouterParam } from 'h3'
import { rolesBody } from '#contracts/http/ticket.ts'
import { readBench } from '../../../bench/ports.ts'
import { answer } from '../../../http/answer.ts'
import { setRoles } from '../../../tickets/act.ts'

export default answer({ body: rolesBody }, async ({ event, services, body }) => {
  const { ports } = await readBench(services)
  await setRoles(services, getRouterParam(event, 'number')!, body, ports.flatMap(({ phone }) => (phone ? [phone.facts] : [])))
})
