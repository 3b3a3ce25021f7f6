import type { Config } from '../base/config.ts'
import type { Transport } from './endpoint.ts'
import { practiceBench } from './makers/practice.ts'

/** The bench of this station; undefined where none is. What comes later (cables of real phones, a radio) is a line here. */
export function benchOf({ link }: Pick<Config, 'link'>): Transport | undefined {
  return link ? practiceBench(link) : undefined
}
