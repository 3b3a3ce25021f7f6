import { answer } from './answer.ts'
import { takeUpload } from '../endpoints/upload-store.ts'
import { insertUpload } from '../endpoints/uploads.queries.ts'

export default answer({}, async ({ event, services }) => {
  const { dataFolder, masterKey } = services.config
  const upload = await takeUpload(dataFolder, masterKey, event.node.req)
  await insertUpload(services.pool, upload)
  return {
    upload: upload.id,
    items: Object.fromEntries(Object.entries(upload.kinds).map(([kind, held]) => [kind, held.items])),
    others: upload.others,
    sizeBytes: upload.sizeBytes,
  }
})
