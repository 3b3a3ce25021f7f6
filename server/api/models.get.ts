import { phoneModels } from '#core/phones/models.ts'
import { answer } from '../http/answer.ts'

export default answer({}, async () => ({ models: phoneModels.map(({ maker, model, platform, versions }) => ({ maker, model, platform, versions })) }))
