import { oneShop } from '../base/shop.queries.ts'
import { answer } from './answer.ts'

export default answer({}, async ({ services, staff }) => {
  const shop = await oneShop(services.pool)
  return { name: staff.name, initials: staff.initials, shop, hasPractice: services.config.hand !== null }
})
