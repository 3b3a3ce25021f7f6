import { ping } from '../base/shop.queries.ts'
import { answer } from './answer.ts'

export default answer({ isOpen: true }, async ({ services }) => {
  await ping(services.pool)
  return { ok: true }
})
