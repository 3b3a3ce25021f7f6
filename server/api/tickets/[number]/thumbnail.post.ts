import { getRouterParam, setResponseHeader } from 'h3'
import { thumbnailBody } from '#contracts/http/media.ts'
import { answer } from '../../answer.ts'
import { readThumbnail } from '../../../desk/items/thumbnails.ts'

/** The picture itself; an empty answer where there is none. */
export default answer({ body: thumbnailBody }, async (call) => {
  const picture = await readThumbnail(call.services, getRouterParam(call.event, 'number')!, { ...call.body, staffId: call.staff.id })
  setResponseHeader(call.event, 'content-type', picture ? 'image/jpeg' : 'application/octet-stream')
  return Buffer.from(picture ?? [])
})
