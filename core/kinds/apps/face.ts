import { capabilityOf, type PhoneModel } from '../../phones/capability.ts'
import { marks, type KindFace } from '../face.ts'

/** How a phone comes by apps. */
export interface AppsAbility {
  /** packages: it is given them, with their data. store: its own store installs them, by the owner's account. */
  readonly installs: 'packages' | 'store'
}

/** How that phone comes by apps. */
export const appsOn = (phone: PhoneModel) => capabilityOf<AppsAbility>(phone, 'apps')

const packages: AppsAbility = { installs: 'packages' }
const store: AppsAbility = { installs: 'store' }
const none = { cannot: 'has-no-apps' }
const withoutData = { read: true, write: true, changes: [{ code: 'app-data-stays', loss: true }] } as const

export const appsFace: KindFace = {
  code: 'apps',
  phones: {
    Orrin: { read: true, write: packages },
    Tamsel: { read: true, write: packages },
    Veyra: { read: true, write: store },
    Holt: { read: false, write: none },
    File: { read: true, write: { cannot: 'file-is-read-only' } },
  },
  guides: {
    android: { ...withoutData, changes: [...withoutData.changes] },
    ios: { ...withoutData, changes: [...withoutData.changes] },
    keypad: { read: none, write: none },
  },
  facets: marks('app', ['tied', 'bank', 'codes', 'wallet', 'chat', 'data'], ['data']),
  needs: ['charge-ample', 'account-signed-in', 'version-order', 'encrypted-reading', 'second-step'],
  // no app crosses to another platform: its counterpart is installed there by hand, and begins empty
  acrossPlatforms: [{ code: 'counterparts-only', loss: true }],
  isMedia: true,
}
