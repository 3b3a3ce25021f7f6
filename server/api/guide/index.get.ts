import { guideIndex } from '../../guide/guide-views.ts'
import { answer } from '../../http/answer.ts'

export default answer({}, async ({ services }) => guideIndex(services))
