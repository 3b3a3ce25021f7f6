import { keyCheck } from '../seal/keys.ts'
import { startHub } from '../events/hub.ts'
import { getServices } from '../services.ts'

/** At the start: the master key must be the one the shop's data was sealed with; then listen. */
export default defineNitroPlugin(() => {
  const services = getServices()
  services.pool.query<{ key_check: Buffer }>('select key_check from shop where id = 1').then(
    ({ rows }) => {
      if (!rows[0] || rows[0].key_check.equals(keyCheck(services.config.masterKey))) return
      services.log.error({ code: 'WrongMasterKey' }, 'the master key is not the one this shop’s data was sealed with')
      process.exit(1)
    },
    () => undefined,
  )
  startHub(services)
})
