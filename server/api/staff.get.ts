import { manyStaff } from '../auth/staff.queries.ts'
import { answer } from '../http/answer.ts'

export default answer({}, async ({ services }) => ({ staff: await manyStaff(services.pool) }))
