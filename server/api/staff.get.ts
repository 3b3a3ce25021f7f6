import { many } from '../db/sql.ts'
import { answer } from '../http/answer.ts'

export default answer({}, async ({ services }) => ({ staff: await many<{ name: string; initials: string }>(services.pool, 'select name, initials from staff order by name') }))
