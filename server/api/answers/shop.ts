import { routes } from '#contracts/http/routes.ts'
import { readPast } from '../../desk/past.ts'
import { changeStaff, firstStart, hire, isNewShop, namePort, readSettings, setCounterpartWord, setShop } from '../../desk/shop/settings.ts'
import { serve } from '../door/door.ts'
import type { StaffId } from '../../base/ids.ts'

/** The shop's own settings, and its past tickets. */
export const shop = [
  serve(routes.isNew, async ({ services }) => ({ isNew: await isNewShop(services) })),
  serve(routes.firstStart, ({ services, body }) => firstStart(services, body)),
  serve(routes.settings, ({ services, actor }) => readSettings(services, actor)),
  serve(routes.setShop, ({ services, actor, body }) => setShop(services, body, actor)),
  serve(routes.hire, ({ services, actor, body }) => hire(services, body, actor)),
  serve(routes.changeStaff, ({ services, actor, params, body }) => changeStaff(services, params.id as StaffId, body, actor)),
  serve(routes.namePort, ({ services, actor, params, body }) => namePort(services, params.port, body.name, actor)),
  serve(routes.setCounterpart, ({ services, actor, body }) => setCounterpartWord(services, body, actor)),
  serve(routes.past, ({ services, body }) => readPast(services, body)),
]
