import { guidePairBody } from '#contracts/http/ready.ts'
import { guidePair } from '../../guide/guide-views.ts'
import { answer } from '../../http/answer.ts'

export default answer({ body: guidePairBody }, async ({ services, body }) => ({ kinds: guidePair(services, body) }))
