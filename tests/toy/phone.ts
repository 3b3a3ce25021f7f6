import type { OwnRecord, PhoneKind } from '#standins/kinds/phone-kind.ts'
import type { Toy } from './kind.ts'

/** Toys as practice phones keep them: in a box, some on a shelf. */
export const toysOnPhones: PhoneKind<Toy> = {
  code: 'toys',
  isAsked: false,
  on: ({ platform }) =>
    platform === 'keypad'
      ? undefined
      : {
          give: (toy) => Buffer.from(JSON.stringify(toy)),
          take: (bytes) => JSON.parse(bytes.toString()) as Toy,
          facts: (toy) => [JSON.stringify(toy)],
          refuses: ({ name }) => (name === 'Lead soldier' ? 'not-understood' : null),
          at: ({ size }) => size * 1000,
        },
  halve: (toy) => ({ ...toy, size: 0 }),
  alter: (toy) => ({ ...toy, size: toy.size + 1 }),
  contents: (_, { count }) =>
    Array.from({ length: count }, (__, i): OwnRecord<Toy> => ({ stored: { name: `Brick ${i}`, size: 1 + (i % 5) } })),
  given: (_, { toys = [] }) =>
    (toys as (Toy & { storage?: string; damage?: string })[]).map(({ storage = 'box', damage, ...stored }) => ({
      stored,
      storage,
      damage,
    })),
}
