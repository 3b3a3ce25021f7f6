import { kindCodes } from '../core/kinds/faces.ts'
import { openPool } from '../server/base/db/sql.ts'
import { bookIn } from '../server/desk/book-in/act.ts'
import type { Actor } from '../server/base/did.ts'
import type { Services } from '../server/base/services.ts'
import type { DatabaseUrls } from './provision.ts'

/** The demo shop's tickets, booked once: one ready to be worked on, one whose old phone waits to be unlocked. */
export async function seedDemo({ urls, ...places }: { urls: DatabaseUrls; masterKey: Buffer; keysFolder: string }): Promise<void> {
  const pool = openPool(urls.app, 'corvend-demo', { max: 2 })
  try {
    const { rows } = await pool.query<Actor & { tickets: number }>(
      `select id, name, (select count(*) from ticket)::int as tickets from staff order by id limit 1`,
    )
    const actor = rows[0]!
    if (actor.tickets > 0) return
    const services = { pool, config: { ...places, dataFolder: '' } } as Services
    const phone = (maker: string, model: string, platform: 'android' | 'ios', version: string, serial: string | null) =>
      ({ place: 'bench', maker, model, platform, version, serial }) as const
    const today = (hours: number) => new Date(Math.ceil(Date.now() / 900_000) * 900_000 + hours * 3_600_000).toISOString()
    await bookIn(
      services,
      {
        customer: { name: 'Ines Harrow', phone: '07700 900417', note: 'Warden of the north light' },
        old: phone('Orrin', 'Orrin 5', 'android', '13', 'OR5-4417-K2'),
        new: phone('Veyra', 'Veyra 12', 'ios', '18', 'VY12-9031-C7'),
        kinds: [...kindCodes],
        intake: {},
        promisedAt: today(1.25),
        waitsInShop: true,
      },
      actor,
    )
    await bookIn(
      services,
      {
        customer: { name: 'Odile Sallow', phone: '020 7946 0119', note: 'Choir leader' },
        old: phone('Tamsel', 'Tamsel M2', 'android', '12', 'TM2-2260-A5'),
        new: phone('Orrin', 'Orrin 9', 'android', '15', null),
        kinds: ['contacts', 'messages', 'calls', 'calendar', 'photos', 'videos', 'apps'],
        intake: {},
        promisedAt: today(3),
        waitsInShop: false,
      },
      actor,
    )
    await bookIn(
      services,
      {
        customer: { name: 'Jory Penrose', phone: '07700 900733', note: 'Ferry mate, two numbers' },
        old: phone('Veyra', 'Veyra 10', 'ios', '17', 'VY10-3317-D4'),
        new: phone('Orrin', 'Orrin 7', 'android', '15', 'OR7-8852-F1'),
        kinds: [...kindCodes],
        intake: {},
        promisedAt: today(2),
        waitsInShop: false,
      },
      actor,
    )
  } finally {
    await pool.end()
  }
}
