import { Blocks } from '@lucide/vue'
import type { KindPack } from '../../app/kinds/kind-pack.ts'

/** What the screens say of toys. */
export const toysPack: KindPack = {
  code: 'toys',
  icon: Blocks,
  bySpan: true,
  words: {
    title: 'Toys',
    one: 'toy',
    many: 'toys',
    facets: { '': 'Any toy', 'toy-large': 'Large ones' },
    shapes: { size: ['inch', 'inches'] },
    sums: { size: 'Inches in all' },
    files: { 'toys-txt': 'Plain text' },
    reasons: {
      'toy-shrunk': 'it is larger than the phone’s box and is shrunk',
      'no-ghosts': 'nobody can carry a ghost',
      'broken-toy': 'it is broken',
    },
  },
}
