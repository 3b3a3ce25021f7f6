import { setCookie } from 'h3'
import { signInBody } from '#contracts/http/ticket.ts'
import { signIn } from '../case/auth.ts'
import { answer, sessionCookie } from './answer.ts'

export default answer({ body: signInBody, isOpen: true }, async ({ event, services, body }) => {
  const { token, staff, maxAgeS } = await signIn(services.pool, body)
  setCookie(event, sessionCookie, token, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: maxAgeS })
  return { name: staff.name, initials: staff.initials }
})
