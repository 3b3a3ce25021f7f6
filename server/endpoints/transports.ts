import type { Station } from '../base/config.ts'
import type { Transport } from './endpoint.ts'
import { practiceBench } from './makers/practice.ts'

/** How a station's bench is reached. What comes later (cables of real phones, a radio) is a line here. */
export function transportOf({ link }: Station): Transport {
  return practiceBench(link)
}
