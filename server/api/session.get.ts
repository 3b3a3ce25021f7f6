import { one } from '../db/sql.ts'
import { answer } from '../http/answer.ts'

export default answer({}, async ({ services, staff }) => {
  const shop = await one<{ name: string; address: string; zone: string }>(
    services.pool,
    'select name, address, zone from shop where id = 1',
  )
  return { name: staff.name, initials: staff.initials, shop, hasPractice: services.config.hand !== null }
})
