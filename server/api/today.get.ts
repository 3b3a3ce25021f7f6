import { answer } from '../http/answer.ts'
import { readToday } from '../tickets/read-ticket.ts'

export default answer({}, ({ services }) => readToday(services))
