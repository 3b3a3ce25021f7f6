import { manyStaff } from '../case/staff.queries.ts'
import { answer } from './answer.ts'

export default answer({}, async ({ services }) => ({ staff: await manyStaff(services.pool) }))
