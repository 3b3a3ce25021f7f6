import { guideIndex } from '../../ready/guide-views.ts'
import { answer } from '../answer.ts'

export default answer({}, async ({ services }) => guideIndex(services))
