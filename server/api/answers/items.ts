import { setResponseHeader } from 'h3'
import { routes } from '#contracts/http/routes.ts'
import { readJoining, readJoinings } from '../../desk/choose/joinings.ts'
import { countEntries, readEntries, readGroups } from '../../desk/items/entries.ts'
import { readItem } from '../../desk/items/item.ts'
import { readMonths } from '../../desk/items/months.ts'
import { readNotTaken } from '../../desk/items/not-taken.ts'
import { show } from '../../desk/items/show.ts'
import { readThumbnail } from '../../desk/items/thumbnails.ts'
import { writeFile } from '../../desk/items/write-file.ts'
import { serve, serveRaw } from '../door/door.ts'
import { sendBytes } from '../door/send-bytes.ts'

/** What counts open to, and what is shown of it. */
export const items = [
  serve(routes.entries, ({ services, actor, params, body }) => readEntries(services, params.number, { search: body, actor })),
  serve(routes.countEntries, async ({ services, actor, params, body }) => ({
    total: await countEntries(services, params.number, { search: body, actor }),
  })),
  serve(routes.groups, ({ services, actor, params, body }) => readGroups(services, params.number, { wish: body, actor })),
  serve(routes.months, ({ services, actor, params, body }) => readMonths(services, params.number, { kind: body.kind, actor })),
  serve(routes.item, ({ services, actor, params, body }) => readItem(services, params.number, { ...body, actor })),
  serve(routes.joinings, ({ services, actor, params, body }) => readJoinings(services, params.number, { wish: body, actor })),
  serve(routes.joining, ({ services, actor, params, body }) => readJoining(services, params.number, { ...body, actor })),
  serveRaw(routes.thumbnail, async ({ event, services, actor, params, body }) => {
    const picture = await readThumbnail(services, params.number, { ...body, actor })
    setResponseHeader(event, 'content-type', picture ? 'image/jpeg' : 'application/octet-stream')
    return Buffer.from(picture ?? [])
  }),
  serveRaw(routes.file, async ({ event, services, actor, params }) => {
    const file = await writeFile(services, params.number, { kind: params.kind, format: params.format, actor })
    setResponseHeader(event, 'content-type', file.mediaType)
    setResponseHeader(event, 'content-disposition', `attachment; filename="${file.name}"`)
    return sendBytes(event, services, file.bytes)
  }),
  serve(routes.notTaken, ({ services, actor, params }) => readNotTaken(services, params.number, actor)),
  serve(routes.show, ({ services, actor, params, body }) => show(services, params.number, { reason: body.reason, actor })),
  serve(routes.hide, ({ services, actor, params }) => show(services, params.number, { reason: 'ended', actor })),
]
