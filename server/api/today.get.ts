import { answer } from './answer.ts'
import { readToday } from '../desk/read-ticket.ts'

export default answer({}, ({ services }) => readToday(services))
