import { once } from 'node:events'
import { openStandinDatabase } from './db/pool.ts'
import { loadDemo, loadSecondBench } from './demo/load.ts'
import { startClock } from './phones/clock.ts'
import { createHandServer } from './servers/hand.ts'
import { createLinkServer } from './servers/link.ts'

/** The stand-ins' process. Everything it needs comes by environment; it prints one line when it answers. */
const env = (name: string) => {
  const value = process.env[name]
  if (!value) throw new Error(`${name} is not set`)
  return value
}

const pool = await openStandinDatabase(env('STANDINS_DATABASE_URL'))
const demo = process.env.STANDINS_DEMO
if (demo === '1' || demo === 'small') await loadDemo(pool, { isSmall: demo === 'small' })
if (demo === 'window') await loadSecondBench(pool)
const link = createLinkServer(pool, env('STANDINS_LINK_TOKEN')).listen(Number(env('STANDINS_LINK_PORT')), '127.0.0.1')
const hand = createHandServer(pool, env('STANDINS_HAND_TOKEN')).listen(Number(env('STANDINS_HAND_PORT')), '127.0.0.1')
await Promise.all([link.listening || once(link, 'listening'), hand.listening || once(hand, 'listening')])
const port = (server: typeof link) => (server.address() as { port: number }).port
console.log(JSON.stringify({ ready: true, linkPort: port(link), handPort: port(hand) }))

const stopClock = startClock(pool)
const stop = () => {
  stopClock()
  for (const server of [link, hand]) {
    server.close()
    server.closeAllConnections()
  }
  void pool.end().finally(() => process.exit(0))
}
process.on('SIGTERM', stop)
process.on('SIGINT', stop)
