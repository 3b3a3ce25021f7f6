import { setResponseStatus } from 'h3'
import { bookInBody } from '#contracts/http/ticket.ts'
import { answer } from '../answer.ts'
import { bookIn } from '../../desk/book-in/act.ts'

export default answer({ body: bookInBody }, async ({ event, services, staff, body }) => {
  const number = await bookIn(services, body, staff.id)
  setResponseStatus(event, 201)
  return { number }
})
