import pg from 'pg'
import { addApiToken, addStaff } from '../server/case/auth.ts'
import { migrate } from '../server/base/db/migrate.ts'
import { keyCheck } from '../server/vault/keys.ts'
import type { StaffId } from '../server/base/ids.ts'

export interface Passwords {
  readonly owner: string
  readonly app: string
  readonly standins: string
}

export interface DatabaseUrls {
  readonly owner: string
  readonly app: string
  readonly standins: string
}

/** Makes roles and databases on a server, and brings the tables up to date. @throws Error like {@link makeDatabases}, `migrate` */
export async function provision(adminUrl: string, passwords: Passwords, suffix = ''): Promise<DatabaseUrls> {
  const urls = await makeDatabases(adminUrl, passwords, suffix)
  await migrate(urls.owner, urls.app)
  return urls
}

/**
 * Makes roles and databases on a server where there are none. The stand-ins' database admits its own role alone.
 * @throws Error when the given role has no right to make roles and databases
 */
export async function makeDatabases(adminUrl: string, passwords: Passwords, suffix = ''): Promise<DatabaseUrls> {
  const admin = new pg.Client({ connectionString: adminUrl })
  await admin.connect()
  const names = { owner: `corvend_owner${suffix}`, app: `corvend_app${suffix}`, standins: `corvend_standins${suffix}` }
  const database = `corvend${suffix}`
  try {
    const { rows } = await admin.query<{ may: boolean }>(
      'select rolsuper or (rolcreaterole and rolcreatedb) as may from pg_roles where rolname = current_user',
    )
    if (!rows[0]?.may) throw new Error('The role of DATABASE_URL must be allowed to make roles and databases (createrole, createdb).')
    for (const key of ['owner', 'app', 'standins'] as const) {
      const role = pg.escapeIdentifier(names[key])
      const known = await admin.query('select 1 from pg_roles where rolname = $1', [names[key]])
      if (known.rowCount === 0) await admin.query(`create role ${role} login`)
      await admin.query(`alter role ${role} login password ${pg.escapeLiteral(passwords[key])}`)
    }
    for (const [db, owner] of [
      [database, names.owner],
      [names.standins, names.standins],
    ] as const) {
      const known = await admin.query('select 1 from pg_database where datname = $1', [db])
      if (known.rowCount === 0) {
        await admin.query(`grant ${pg.escapeIdentifier(owner)} to current_user`).catch(() => undefined)
        await admin.query(`create database ${pg.escapeIdentifier(db)} owner ${pg.escapeIdentifier(owner)}`)
      }
      await admin.query(`revoke all on database ${pg.escapeIdentifier(db)} from public`)
    }
    // the doorbell's tables are the application's own
    await admin.query(`grant connect, create, temporary on database ${pg.escapeIdentifier(database)} to ${pg.escapeIdentifier(names.app)}`)
  } finally {
    await admin.end()
  }
  const urlOf = (role: string, password: string, db: string) => {
    const url = new URL(adminUrl)
    url.username = role
    url.password = password
    url.pathname = `/${db}`
    return url.href
  }
  return {
    owner: urlOf(names.owner, passwords.owner, database),
    app: urlOf(names.app, passwords.app, database),
    standins: urlOf(names.standins, passwords.standins, names.standins),
  }
}

/** Another database for practice phones, beside the first and by the same role: those of a second bench. */
export async function makeSecondStandins(adminUrl: string, first: string): Promise<string> {
  const url = new URL(first)
  const [owner, name] = [pg.escapeIdentifier(url.username), `${url.pathname.slice(1)}_2`]
  const admin = new pg.Client({ connectionString: adminUrl })
  await admin.connect()
  try {
    const known = await admin.query('select 1 from pg_database where datname = $1', [name])
    if (known.rowCount === 0) await admin.query(`create database ${pg.escapeIdentifier(name)} owner ${owner}`)
    await admin.query(`revoke all on database ${pg.escapeIdentifier(name)} from public`)
  } finally {
    await admin.end()
  }
  url.pathname = `/${name}`
  return url.href
}

export interface ShopWish {
  readonly masterKey: Buffer
  readonly name: string
  readonly address: string
  readonly staff: readonly { name: string; initials: string; pin: string; token?: string }[]
}

/** Gives scripts a token in the name of the first who works here. Answers who that is; undefined in a shop without anybody. */
export async function giveToken(appUrl: string, token: string): Promise<string | undefined> {
  const client = new pg.Client({ connectionString: appUrl })
  await client.connect()
  try {
    const { rows } = await client.query<{ id: StaffId; name: string }>('select id, name from staff where is_active order by id limit 1')
    if (!rows[0]) return undefined
    await addApiToken(client, rows[0].id, token)
    return rows[0].name
  } finally {
    await client.end()
  }
}

/** Makes the shop and its staff where there are none. @throws Error when the master key is another shop's */
export async function makeShop(appUrl: string, { masterKey, name, address, staff }: ShopWish): Promise<void> {
  const client = new pg.Client({ connectionString: appUrl })
  await client.connect()
  try {
    await client.query(
      `insert into shop (id, name, address, region, zone, key_check) values (1, $1, $2, 'GB', 'Europe/London', $3) on conflict (id) do nothing`,
      [name, address, keyCheck(masterKey)],
    )
    const { rows } = await client.query<{ key_check: Buffer }>('select key_check from shop')
    if (!rows[0]!.key_check.equals(keyCheck(masterKey))) throw new Error('The master key is not the one this shop’s data was sealed with.')
    for (const { token, ...person } of staff) {
      const { id } = await addStaff(client, person)
      if (token) await addApiToken(client, id, token)
    }
  } finally {
    await client.end()
  }
}
