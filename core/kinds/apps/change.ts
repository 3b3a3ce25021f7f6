import type { PhoneModel } from '../../phones/capability.ts'
import type { Change } from '../kind.ts'
import { findCounterpart } from './counterpart.ts'
import type { App } from './model.ts'
import { appsOn } from './face.ts'

/** Every change a phone can force on an app. */
export const appChanges = {
  'app-data-stays': { loss: true },
  'counterpart-same-maker': { loss: true },
  'counterpart-equal-use': { loss: true },
  'paid-again': { loss: true },
} as const
export type AppChangeCode = keyof typeof appChanges

/** Changes by which an app is not sent but installed by hand: it waits on the install list. */
export const byHandChanges = ['counterpart-same-maker', 'counterpart-equal-use'] as const

/** The form an app takes on a phone, with every change named, or the rule by which it can't cross. */
export function changeApp(app: App, to: PhoneModel): { item: App; changes: Change[] } | { cannot: string } {
  const { write } = appsOn(to)
  if ('cannot' in write) return write
  const change = (code: AppChangeCode): Change => ({ code, loss: appChanges[code].loss })
  // the catalogue was asked: the platform is another
  if (app.known) {
    const { how, app: other, notes } = findCounterpart(app)
    if (how === 'web') return { cannot: 'web-page-only' }
    if (how === 'none' || !other) return { cannot: 'no-counterpart' }
    if (notes.includes('needs-newer')) return { cannot: 'needs-newer' }
    if (notes.includes('other-region')) return { cannot: 'other-region' }
    const item: App = {
      ...app,
      id: other.id,
      name: other.name,
      version: '',
      package: undefined,
      data: undefined,
      dataStays: true,
      known: undefined,
    }
    return { item, changes: [change(`counterpart-${how}`), ...(notes.includes('paid-again') ? [change('paid-again')] : [])] }
  }
  if (write.installs === 'store') {
    // its own store installs it; what is in it travels where the app lets it
    return { item: { ...app, package: undefined }, changes: app.dataStays ? [change('app-data-stays')] : [] }
  }
  if (!app.package) return { cannot: 'package-not-given' }
  return { item: app, changes: app.dataStays ? [change('app-data-stays')] : [] }
}
