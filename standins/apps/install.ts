import type pg from 'pg'
import { catalogue } from '../catalogue/apps.ts'
import { modelOf, type PhoneRow } from '../phones/phone.ts'
import { bumpPhone } from '../phones/phones.queries.ts'
import { deleteApp } from '../phones/records.queries.ts'
import { fillRecords } from '../phones/store.ts'
import type { StoredApp } from './records.ts'

/** What the owner does in the phone's own store: installs an app of its catalogue, or takes one away. False when there is none such. */
export async function installApp(pool: pg.Pool, phone: PhoneRow, { id, isWanted }: { id: string; isWanted: boolean }): Promise<boolean> {
  const { platform } = modelOf(phone)
  if (!isWanted) {
    const wasThere = await deleteApp(pool, phone.serial, id)
    await bumpPhone(pool, phone.serial)
    return wasThere
  }
  const app = catalogue().apps.find((one) => one.id === id && one.platform === platform)
  if (!app) return false
  const stored: StoredApp = { bundle: id, name: app.name, version: '1.0', use: app.use, package: null, data: null, dataStays: true }
  await fillRecords(pool, phone, 'apps', [{ stored }])
  return true
}
