import { Phone } from '@lucide/vue'
import type { KindPack } from '../kind-pack.ts'

export const calls: KindPack = {
  code: 'calls',
  icon: Phone,
  bySpan: true,
  words: {
    title: 'Calls',
    one: 'call',
    many: 'calls',
    facets: {
      '': 'Any call',
      'call-in': 'Taken',
      'call-out': 'Made',
      'call-missed': 'Missed',
      'call-rejected': 'Rejected',
      'call-blocked': 'Blocked',
      'call-withheld': 'Withheld number',
    },
    shapes: {
      in: ['taken', 'taken'],
      out: ['made', 'made'],
      missed: ['missed', 'missed'],
      rejected: ['rejected', 'rejected'],
      blocked: ['blocked', 'blocked'],
      withheld: ['number withheld', 'numbers withheld'],
      timeNotKnown: ['time not known', 'times not known'],
      minutes: ['minute', 'minutes'],
    },
    files: { 'calls-vcf': 'vCard', 'calls-csv': 'CSV' },
  },
}
