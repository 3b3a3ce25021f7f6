import type { KindFace } from '#core/kinds/face.ts'

/** What guides, Book in and the forecast know of toys. */
export const toysFace: KindFace = {
  code: 'toys',
  phones: {
    Orrin: { read: true, write: { largest: 99 } },
    Veyra: { read: true, write: { largest: 9 } },
    Holt: { read: false, write: { cannot: 'no-box' } },
  },
  guides: {
    android: { read: true, write: true },
    ios: { read: true, write: true, changes: [{ code: 'toy-shrunk', loss: true }], limits: { items: 500 } },
  },
  needs: ['accounts-still'],
  ownNeeds: {
    ios: [
      {
        code: 'box-open',
        title: 'Open its toy box',
        met: 'Its toy box is open',
        side: 'new',
        kinds: ['toys'],
        seenBy: 'person',
        weight: 'must',
        steps: [{ say: 'Lift the lid of the toy box.' }],
      },
    ],
  },
  facets: { 'toy-large': { figure: 'size', moreThan: 9 } },
}
