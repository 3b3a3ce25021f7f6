import { Readable } from 'node:stream'
import { getRouterParam, sendStream, setResponseHeader } from 'h3'
import { writeFile } from '../../../../../desk/items/write-file.ts'
import { answer } from '../../../../answer.ts'

export default answer({}, async ({ event, services, staff }) => {
  const param = (name: string) => getRouterParam(event, name)!
  const file = await writeFile(services, param('number'), { kind: param('kind'), format: param('format'), staffId: staff.id })
  setResponseHeader(event, 'content-type', file.mediaType)
  setResponseHeader(event, 'content-disposition', `attachment; filename="${file.name}"`)
  return sendStream(event, Readable.from(file.bytes, { objectMode: false }))
})
