import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { describe, expect, it } from 'vitest'
import type { Services } from '../base/services.ts'
import { guidePair } from './guide-views.ts'

const services = { config: { dataFolder: mkdtempSync(`${tmpdir()}/corvend-guides-`) } } as Services
const phone = (maker: string, model: string, platform: 'android' | 'ios', version: string) => ({ maker, model, platform, version })
const orrin = phone('Orrin', 'Orrin 5', 'android', '13')
const orrin9 = phone('Orrin', 'Orrin 9', 'android', '15')
const veyra = phone('Veyra', 'Veyra 12', 'ios', '18')
const appsOf = (old: typeof orrin, now: typeof orrin) => guidePair(services, { old, new: now }).find(({ kind }) => kind === 'apps')!

describe('what crosses, as Book in and the guide say it', () => {
  it.each([
    ['Android to iOS', orrin, veyra],
    ['iOS to Android', veyra, orrin],
  ])('%s: no app comes over; counterparts are installed by hand and begin empty', (_, old, now) => {
    expect(appsOf(old, now)).toMatchObject({ crosses: 'changed', changes: [{ code: 'counterparts-only', loss: true }] })
  })
  it('within a platform the app comes over, and what can’t come with it is named', () => {
    expect(appsOf(orrin, orrin9).changes.map(({ code }) => code)).not.toContain('counterparts-only')
  })
  it('calls to a platform nobody may write are said before', () => {
    expect(guidePair(services, { old: orrin, new: veyra }).find(({ kind }) => kind === 'calls')).toMatchObject({ crosses: 'cannot' })
  })
})
