import { answer } from '../http/answer.ts'

export default answer({ isOpen: true }, async ({ services }) => {
  await services.pool.query('select 1')
  return { ok: true }
})
