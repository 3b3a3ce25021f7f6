import { guidePhoneBody } from '#contracts/http/ready.ts'
import { guidePhone } from '../../ready/guide-views.ts'
import { answer } from '../answer.ts'

export default answer({ body: guidePhoneBody }, async ({ services, body }) => guidePhone(services, body))
