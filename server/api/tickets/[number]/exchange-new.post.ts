import { getRouterParam } from 'h3'
import { exchangeBody } from '#contracts/http/ready.ts'
import { readBench, seenPhones } from '../../../endpoints/ports.ts'
import { exchangeNew } from '../../../desk/course.ts'
import { answer } from '../../answer.ts'

export default answer({ body: exchangeBody }, async ({ event, services, staff, body }) =>
  exchangeNew(services, getRouterParam(event, 'number')!, { ...body, staffId: staff.id, seen: seenPhones(await readBench(services)) }),
)
