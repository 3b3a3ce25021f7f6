import type { Kind } from '#core/kinds/kind.ts'
import { capabilityOf, type PhoneModel } from '#core/phones/capability.ts'
import { toysFace } from './face.ts'

/** A toy: a name and a size. A kind nobody but this folder knows. */
export interface Toy {
  readonly name: string
  readonly size: number
}

const largest = (phone: PhoneModel) => {
  const { write } = capabilityOf<{ largest: number }>(phone, 'toys')
  return 'cannot' in write ? 0 : write.largest
}

export const toys: Kind<Toy> = {
  ...toysFace,
  canonicalVersion: 1,
  joins: false,
  changes: { 'toy-shrunk': { loss: true } },
  rules: ['no-ghosts', 'no-box'],
  failures: ['broken-toy'],
  issues: [],
  read(bytes) {
    try {
      return { ok: true, item: JSON.parse(Buffer.from(bytes).toString()) as Toy, issues: [] }
    } catch {
      return { ok: false, code: 'broken-toy' }
    }
  },
  atoms: ({ name, size }) => [`toy ${name}`, `size ${size}`],
  canonicalBytes: (atoms) => Buffer.from(atoms.join('\n')),
  matchKeys: () => [],
  change: (toy, to) =>
    toy.name === 'Ghost'
      ? { cannot: 'no-ghosts' }
      : toy.size > largest(to)
        ? { item: { ...toy, size: largest(to) }, changes: [{ code: 'toy-shrunk', loss: true }] }
        : { item: toy, changes: [] },
  sample: () => ({ name: 'a', size: 10 }),
  write: (toy) => Buffer.from(JSON.stringify(toy)),
  describe: ({ name }) => ({ title: name, lines: [{ field: 'name', text: name }] }),
  shape: ({ size }) => ({ size }),
  figures: ['size'],
  at: ({ size }) => size * 1000,
  leftByDefault: ['shelf'],
  openFiles: [{ code: 'toys-txt', extension: 'txt', mediaType: 'text/plain', write: ({ name, size }) => `${name} ${size}\r\n` }],
}
