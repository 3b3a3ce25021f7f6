import { answer } from './answer.ts'
import { readToday } from '../desk/today/view.ts'

export default answer({}, ({ services }) => readToday(services))
