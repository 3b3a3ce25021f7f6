import { createHash } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { createNumberReader } from '#core/kinds/contacts/index.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { takesNone } from '#core/phones/capability.ts'
import { findModel } from '#core/phones/models.ts'
import { createInstantReader } from '#core/text/zone.ts'
import { calendarOf } from '#standins/kinds/calendar/demo.ts'
import { callLog } from '#standins/kinds/calls/calls.ts'
import { standinModels } from '#standins/phones/models.ts'
import { recordsOf } from '#standins/phones/records.ts'

const tools = {
  number: createNumberReader('GB'),
  hash: (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex'),
  instant: createInstantReader('Europe/London'),
  nowMs: Date.UTC(2026, 10, 25),
}
const kin = ['Orrin 5', 'Tamsel M2', 'Veyra 12', 'Holt 3'].map((name) => standinModels.find(({ model }) => model === name)!)
const stores: Record<string, { stored: unknown; damage?: string }[]> = {
  calls: callLog({ seed: 3, count: 80, style: 'traps' }),
  calendar: calendarOf({ seed: 5, count: 120, style: 'traps' }),
}

describe.each(Object.keys(stores))('%s that phones give and take in their own dialect', (code) => {
  const kind = kindOf(code)
  const own = stores[code]!.filter(({ damage }) => !damage)
  const read = (bytes: Uint8Array) => {
    const record = kind.read(bytes, tools)
    if (!record.ok) throw new Error(`${record.code}\n${Buffer.from(bytes).toString()}`)
    return record.item
  }

  it.each(kin)('every dialect gives what can be read: $model', (model) => {
    for (const { stored } of own) expect(() => read(recordsOf(model, code)!.give(stored))).not.toThrow()
  })

  for (const from of kin) {
    for (const to of kin) {
      it(`${from.model} to ${to.model}: what the new phone gives back is what the forecast says`, () => {
        const target = findModel(to)
        let carried = 0
        for (const { stored } of own) {
          const item = read(recordsOf(from, code)!.give(stored))
          const changed = kind.change(item, target)
          if ('cannot' in changed) continue
          expect(kind.change(changed.item, target)).toMatchObject({ changes: [] })
          const taker = recordsOf(to, code)!
          const taken = taker.take(Buffer.from(kind.write(changed.item, target)))
          expect(taker.refuses(taken)).toBeNull()
          expect(kind.atoms(read(taker.give(taken)), tools)).toEqual(kind.atoms(changed.item, tools))
          carried++
        }
        const takes = !takesNone(target, code)
        expect(carried > 50).toBe(takes)
      })
    }
  }
})
