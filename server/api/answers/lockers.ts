import { routes } from '#contracts/http/routes.ts'
import type { CopyId } from '../../base/ids.ts'
import { closeCopy, destroyNow, keepCopy } from '../../desk/lockers/act.ts'
import { closeLook, lookInto } from '../../desk/lockers/look.ts'
import { readLockers } from '../../desk/lockers/view.ts'
import { serve } from '../door/door.ts'

/** The shop's lockers. */
export const lockers = [
  serve(routes.lockers, ({ services, body }) => readLockers(services, body)),
  serve(routes.lookInto, async ({ services, actor, params, body }) => ({
    number: await lookInto(services, params.copy as CopyId, { beside: body.beside, actor }),
  })),
  serve(routes.closeLook, ({ services, params }) => closeLook(services, params.number)),
  serve(routes.keepCopy, ({ services, actor, params, body }) => keepCopy(services, params.copy as CopyId, body, actor)),
  serve(routes.closeCopy, ({ services, params, body }) => closeCopy(services, params.copy as CopyId, body)),
  serve(routes.destroyCopy, ({ services, actor, params, body }) => destroyNow(services, params.copy as CopyId, body, actor)),
]
