import { faces } from '../kinds/faces.ts'
import type { PhoneCapability, PhoneModel } from './capability.ts'

const makers = {
  Orrin: { platform: 'android', models: ['Orrin 4', 'Orrin 5', 'Orrin 7', 'Orrin 9'] },
  Tamsel: { platform: 'android', models: ['Tamsel M1', 'Tamsel M2', 'Tamsel M3'] },
  Veyra: { platform: 'ios', models: ['Veyra 9', 'Veyra 10', 'Veyra 12', 'Veyra 14'] },
  Holt: { platform: 'keypad', models: ['Holt 3', 'Holt 5'] },
} as const

const capabilitiesOf = (maker: string): PhoneCapability =>
  Object.fromEntries(faces.flatMap(({ code, phones }) => (phones[maker] ? [[code, phones[maker]]] : [])))

/** What each model this shop knows does with what is carried; the guides say how it is made ready. */
export const phoneModels: readonly PhoneModel[] = Object.entries(makers).flatMap(([maker, { platform, models }]) => {
  const capability = capabilitiesOf(maker)
  return models.map((model) => ({ maker, model, platform, capability }))
})

/** The model taken for an unknown one: the most limited of its platform, so that nothing is promised. */
const fallbacks = { android: 'Tamsel M2', ios: 'Veyra 12', keypad: 'Holt 3' } as const

/** A dropped file as the old phone: it can be read and nothing else. */
export const fileModel: PhoneModel = {
  maker: 'File',
  model: 'File',
  platform: 'file',
  capability: capabilitiesOf('File'),
}

/** A locker as the new side; what was copied into one is read as the phone it came from. */
export const lockerModel: PhoneModel = { maker: 'Locker', model: 'Locker', platform: 'locker', capability: {} }

/** What is taken home as open files. */
export const folderModel: PhoneModel = { maker: 'Files', model: 'Files', platform: 'folder', capability: {} }

/** The model by maker and model; an unknown one is taken as the most limited of its platform, so that nothing is promised. */
export function findModel(phone: { maker: string; model: string; platform: string; version?: string }): PhoneModel {
  if (phone.platform === 'file') return fileModel
  if (phone.platform === 'locker') return lockerModel
  if (phone.platform === 'folder') return folderModel
  const known = phoneModels.find((m) => m.maker === phone.maker && m.model === phone.model)
  const version = phone.version ? { version: phone.version } : {}
  if (known) return { ...known, ...version }
  const fallback = fallbacks[phone.platform as keyof typeof fallbacks] ?? fallbacks.android
  return { ...phoneModels.find((m) => m.model === fallback)!, maker: phone.maker, model: phone.model, ...version }
}
