import { pairBody } from '#contracts/http/ticket.ts'
import { answer } from '../http/answer.ts'
import { describePair } from '../plan/pair-table.ts'

export default answer({ body: pairBody }, async ({ body }) => describePair(body))
