import type { KindWords } from '../kinds/kind-pack.ts'

/** What files of every kind are like. A shape has one word on all screens, whichever kind it is of. */
export const fileShapes: KindWords['shapes'] = {
  cloud: ['only in the cloud', 'only in the cloud'],
  damaged: ['damaged', 'damaged'],
  turned: ['turned', 'turned'],
  locked: ['locked', 'locked'],
  apart: ['not in the phone’s own list', 'not in the phone’s own list'],
}
