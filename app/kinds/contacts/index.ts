import { Contact } from '@lucide/vue'
import type { KindPack } from '../kind-pack.ts'

export const contacts: KindPack = {
  code: 'contacts',
  icon: Contact,
  words: {
    title: 'Contacts',
    one: 'contact',
    many: 'contacts',
    facets: {
      '': 'Any shape',
      'several-numbers': 'Several numbers',
      'no-number': 'No number',
      'with-photo': 'With photo',
      'in-groups': 'In groups',
      'no-name': 'No name',
    },
    shapes: {
      phones: ['number', 'numbers'],
      emails: ['mail address', 'mail addresses'],
      photo: ['photo', 'photos'],
      groups: ['group', 'groups'],
    },
    files: { 'vcf-4.0': 'vCard 4.0', 'vcf-3.0': 'vCard 3.0', 'vcf-2.1': 'vCard 2.1' },
    derived: { ownCard: { say: 'The owner’s own card', meaning: 'the phone makes it of its own settings; it is not a stored contact' } },
  },
}
