import { guidePhoneBody } from '#contracts/http/ready.ts'
import { guidePhone } from '../../guide/guide-views.ts'
import { answer } from '../../http/answer.ts'

export default answer({ body: guidePhoneBody }, async ({ services, body }) => guidePhone(services, body))
