import { maybeKeyCheck } from '../base/shop.queries.ts'
import { keyCheck } from '../vault/keys.ts'
import { startHub } from '../events/hub.ts'
import { getServices } from '../base/services.ts'

/** At the start: the master key must be the one the shop's data was sealed with; then listen. */
export default defineNitroPlugin(() => {
  const services = getServices()
  maybeKeyCheck(services.pool).then(
    (shop) => {
      if (!shop || shop.key_check.equals(keyCheck(services.config.masterKey))) return
      services.log.error({ code: 'WrongMasterKey' }, 'the master key is not the one this shop’s data was sealed with')
      process.exit(1)
    },
    () => undefined,
  )
  startHub(services)
})
