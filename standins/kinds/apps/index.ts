import { modelOf } from '../../phones/phone.ts'
import { remakeFile } from '../../phones/files.queries.ts'
import { bumpPhone } from '../../phones/phones.queries.ts'
import { bumpRecord } from '../../phones/records.queries.ts'
import { catalogue } from '../../catalogue/apps.ts'
import type { PhoneKind } from '../phone-kind.ts'
import { deleteApp } from './apps.queries.ts'
import { appsOf, giveApp, takeApp, type StoredApp } from './records.ts'

const filesOf = (stored: StoredApp) => [stored.package, stored.data].filter((file) => file !== null)

/** Apps: packages with their data on Android, a list for the store on iOS. A keypad phone has none, and installs none. */
export const apps: PhoneKind<StoredApp> = {
  code: 'apps',
  // the helper, or the owner's account, is enough
  isAsked: false,
  hasFiles: true,
  asksFor: [{ platform: 'ios', writes: false, unless: 'encrypted-reading', question: 'encrypted-reading-on' }],
  on({ platform }) {
    const way = platform === 'ios' ? 'plist' : 'lines'
    return {
      give: (stored) => giveApp(stored, way),
      take: (bytes) => takeApp(bytes, way),
      facts: ({ bundle, data }) => [JSON.stringify({ bundle, data: data?.size ?? null })],
      refuses: () => (platform === 'keypad' ? 'storage-read-only' : null),
      filesOf,
      sizeOf: (stored) => filesOf(stored).reduce((sum, { size }) => sum + size, 0),
      // from the store by the owner's account, or the helper installs packages
      ...(platform === 'ios' ? { writesOnly: ['account-signed-in'] } : {}),
    }
  },
  halve: (stored) => stored,
  alter: (stored) => ({ ...stored, version: `${stored.version}.1` }),
  contents: ({ platform }, request) => (platform === 'keypad' ? [] : appsOf(request, platform)),
  counted: async (_, phone) => ({ derived: { preinstalled: modelOf(phone).preinstalled } }),
  acts: {
    /** What the owner does in the phone's own store. */
    install: async (phone, { id }, { fill, refuse }) => {
      const app = catalogue().apps.find((one) => one.id === id && one.platform === modelOf(phone).platform)
      if (!app) return refuse('not-in-the-store')
      const stored: StoredApp = { bundle: app.id, name: app.name, version: '1.0', use: app.use, package: null, data: null, dataStays: true }
      return (await fill([{ stored }])) > 0
    },
    uninstall: async (phone, { id }, { pool, refuse }) => {
      const wasThere = await deleteApp(pool, phone.serial, String(id))
      await bumpPhone(pool, phone.serial)
      return wasThere || refuse('not-in-the-store')
    },
    /** Its owner uses an app: what is in it is another. */
    'use-app': async (phone, { id }, { pool, record, refuse }) => {
      const app = await record(id as number | undefined)
      const { data } = app.data as StoredApp
      if (!data) return refuse('no-such-record')
      await remakeFile(pool, phone.serial, app.id, data.handle)
      await bumpRecord(pool, phone.serial, app.id)
      await bumpPhone(pool, phone.serial)
      return true
    },
  },
}
