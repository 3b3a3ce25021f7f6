import { routes } from '#contracts/http/routes.ts'
import { together } from '../../base/once.ts'
import { readToday } from '../../desk/today/view.ts'
import { markPort } from '../../endpoints/ports.ts'
import { takeUpload } from '../../endpoints/upload-store.ts'
import { insertUpload, manyWaiting } from '../../endpoints/uploads.queries.ts'
import { guideIndex, guidePair, guidePhone } from '../../ready/guide-views.ts'
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
    const upload = await takeUpload(services.config, event.node.req, {
      waitingOf: (all) => manyWaiting(services.pool, all),
    })
    await insertUpload(services.pool, upload)
    return {
      upload: upload.id,
      items: Object.fromEntries(Object.entries(upload.kinds).map(([kind, held]) => [kind, held!.items])),
      others: upload.others,
      sizeBytes: upload.sizeBytes,
    }
  }),
]
