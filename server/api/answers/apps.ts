import { routes } from '#contracts/http/routes.ts'
import { chooseCounterpart, markMoved, readApps, readCandidates } from '../../desk/choose/apps.ts'
import { readInstallList, readInstallPage } from '../../desk/choose/install-list.ts'
import { serve } from '../door/door.ts'

export const apps = [
  serve(routes.apps, ({ services, actor, params }) => readApps(services, params.number, actor)),
  serve(routes.candidates, ({ services, actor, params, body }) => readCandidates(services, params.number, { key: body.key, actor })),
  serve(routes.chooseCounterpart, ({ services, actor, params, body }) => chooseCounterpart(services, params.number, { body, actor })),
  serve(routes.markMoved, ({ services, actor, params, body }) => markMoved(services, params.number, { body, actor })),
  serve(routes.installList, ({ services, actor, params }) => readInstallList(services, params.number, actor)),
  serve(routes.installPage, ({ event, services, params }) =>
    readInstallPage(services, params.code, event.node.req.socket.remoteAddress ?? ''),
  ),
]
