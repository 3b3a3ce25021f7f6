import { LayoutGrid } from '@lucide/vue'
import { defineAsyncComponent } from 'vue'
import type { KindPack } from '../kind-pack.ts'

export const apps: KindPack = {
  code: 'apps',
  icon: LayoutGrid,
  board: defineAsyncComponent(() => import('./AppsBoard.vue')),
  words: {
    title: 'Apps',
    one: 'app',
    many: 'apps',
    facets: { '': 'Any app', 'app-tied': 'Tied to the phone', 'app-data': 'With data that travels' },
    shapes: { tied: ['tied to the phone', 'tied to the phone'], data: ['with data', 'with data'] },
    sums: { tied: 'Tied to the old phone' },
    derived: { preinstalled: { say: 'Apps it came with', meaning: 'the maker put them there; they are not the customer’s' } },
  },
}
