import { routes } from '#contracts/http/routes.ts'
import { together } from '../../base/once.ts'
import { readToday } from '../../desk/today/view.ts'
import { markPort } from '../../endpoints/ports.ts'
import { beginUpload, sortUploaded, takePiece, takeWhole, uploadStands } from '../../endpoints/brought/uploads.ts'
import { guideIndex, guidePair, guidePhone } from '../../ready/guide-views.ts'
import { uploadToShow } from '../../desk/items/not-taken.ts'
import { serve } from '../door/door.ts'

/** The same for whoever asks, and asked by every page at every change. */
const today = together(readToday)

export const bench = [
  serve(routes.today, ({ services }) => today(services)),
  serve(routes.markPort, ({ services, params, body }) => markPort(services, params.port, body.text)),
  serve(routes.guide, async ({ services }) => guideIndex(services)),
  serve(routes.guidePhone, async ({ services, body }) => guidePhone(services, body)),
  serve(routes.guidePair, async ({ services, body }) => ({ kinds: guidePair(services, body) })),
  serve(routes.takeUpload, async ({ event, services }) => {
    const { upload, items, others, sizeBytes } = await takeWhole(services, event.node.req)
    return { upload, items, others: others.reduce((sum, { n = 1 }) => sum + n, 0), sizeBytes }
  }),
  serve(routes.beginUpload, ({ services, body }) => beginUpload(services, body)),
  serve(routes.takePiece, async ({ event, services, params, query }) => ({
    gotBytes: await takePiece(services, params.upload, { no: params.no, from: query.from, body: event.node.req }),
  })),
  serve(routes.sortUpload, async ({ services, params, body }) => uploadToShow(await sortUploaded(services, params.upload, body))),
  serve(routes.upload, async ({ services, params }) => uploadToShow(await uploadStands(services, params.upload))),
]
