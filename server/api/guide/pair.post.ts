import { guidePairBody } from '#contracts/http/ready.ts'
import { guidePair } from '../../ready/guide-views.ts'
import { answer } from '../answer.ts'

export default answer({ body: guidePairBody }, async ({ services, body }) => ({ kinds: guidePair(services, body) }))
