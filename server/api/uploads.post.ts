import { answer } from '../http/answer.ts'
import { takeUpload } from '../uploads/upload-store.ts'
import { insertUpload } from '../uploads/uploads.queries.ts'

export default answer({}, async ({ event, services }) => {
  const { dataFolder, masterKey } = services.config
  const upload = await takeUpload(dataFolder, masterKey, event.node.req)
  await insertUpload(services.pool, upload)
  return { upload: upload.id, cards: upload.cards, sizeBytes: upload.sizeBytes }
})
