import { deleteCookie, getCookie } from 'h3'
import { signOut } from '../case/auth.ts'
import { answer, sessionCookie } from './answer.ts'

export default answer({}, async ({ event, services }) => {
  const token = getCookie(event, sessionCookie)
  if (token) await signOut(services.pool, token)
  deleteCookie(event, sessionCookie, { path: '/' })
})
