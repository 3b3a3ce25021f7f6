import { type Shown } from './say.ts'

/** book-in/LockerPick.vue */
export const lockerPick = {
  keepCopy: 'Or keep a copy in a locker of the shop’s',
  keptUntil: 'Kept until, the day included',
  orPutBack: 'Or put a copy back',
  nobody: 'no name',
  passphrase: 'The customer’s passphrase opens it',
  copy: (id: Shown, customer: Shown, model: Shown, day: Shown, items: Shown) => `${id}: ${customer}, ${model} as of ${day}, ${items} items`,
}

/** A copy is kept to the end of a day: of the moment it ends, that day. */
export const lastDayOf = (keepUntil: string) => new Date(Date.parse(keepUntil) - 1).toISOString()

/** What stands where a phone would, of a copy. */
export const copyLine = {
  fromLocker: 'Copy in the locker',
  intoLocker: 'Locker',
  copy: (id: Shown, rest: Shown) => (rest ? `copy ${id}, ${rest}` : `copy ${id}`),
  keptUntil: (day: Shown) => `kept until ${day}`,
  asOf: (day: Shown) => `as of ${day}`,
  shortThen: (n: Shown) => `${n} short then`,
  destroyed: 'destroyed',
  madeNow: 'Everything is taken as the phone gives it, and sealed. Nothing to make ready.',
  readNow: 'Read from a locker; nothing to make ready.',
}

/** lockers.vue */
export const lockersPage = {
  tabTitle: 'Lockers · Corvend',
  lockers: 'Lockers',
  none: 'No copy is kept. Book a phone in with “keep a copy” as its new side to make one.',
  noneAnswers: 'No copy answers to that.',
  find: 'Find a copy, ticket, model or serial',
  showDestroyed: 'Destroyed ones',
  destroyedOnes: (copies: Shown) => `${copies} destroyed`,
  stored: (copies: Shown, bytes: Shown) => `${copies} kept, ${bytes} on the disk`,
  heads: {
    size: 'Size in the locker',
    kept: 'Kept until',
  },
  items: (n: Shown) => `${n} items`,
  noName: 'no name',
  madeAsOf: (day: Shown) => `as of ${day}`,
  shortThen: (n: Shown) => `${n} short then`,
  nothingShort: 'nothing short',
  notReadBack: (n: Shown) => `${n} not read back`,
  savedBytes: (bytes: Shown) => `${bytes} of it stored once already`,
  by: (name: Shown, ticket: Shown) => `${name}, ${ticket}`,
  ends: (days: number) => (days <= 0 ? 'ends today' : days === 1 ? 'ends tomorrow' : `ends in ${days} days`),
  look: 'Look into it',
  lookOne: (id: Shown) => `Look into it: copy ${id}`,
  putBack: 'Put back',
  putBackOne: (id: Shown) => `Put back copy ${id}`,
  takeHome: 'As files',
  takeHomeOne: (id: Shown) => `As files: copy ${id}`,
  isWhole: 'Check a file a customer brings',
  keepLonger: 'Keep until…',
  keepOne: (id: Shown) => `Keep until… copy ${id}`,
  compare: 'Compare…',
  compareOne: (id: Shown) => `Compare… copy ${id}`,
  closeIt: 'Close with a passphrase…',
  closeOne: (id: Shown) => `Close with a passphrase… copy ${id}`,
  closed: 'closed by its owner',
  closeTitle: (id: Shown) => `Close copy ${id} with the customer’s passphrase`,
  closeLead:
    'The customer types it. From then on the shop sees counts only: it can’t look into the copy, and nobody can open it without the passphrase, Corvend’s makers least of all. If it is forgotten, what is in the copy is lost.',
  passphrase: 'Passphrase, eight characters at least',
  closeNow: 'Close it',
  destroy: 'Destroy…',
  destroyOne: (id: Shown) => `Destroy… copy ${id}`,
  keepTitle: (id: Shown) => `Until when copy ${id} is kept`,
  keepIt: 'Keep it until then',
  destroyTitle: (id: Shown) => `Destroy copy ${id}`,
  destroyLead: 'Its key goes first, then all it alone holds. Nobody can get it back; its counts stay here.',
  why: 'Why',
  type: (id: Shown) => `Type ${id} to confirm`,
  destroyNow: 'Destroy it now',
  gone: 'Destroyed',
  goneOn: (day: Shown) => `on ${day}`,
  how: {
    date: 'its date was over',
    unfinished: 'it was never finished',
    asked: 'asked for',
  } as Record<string, string>,
  whys: {
    'customer-asked': 'The customer asked for it',
    'put-back': 'It was put back',
    'by-mistake': 'It was made by mistake',
    'not-needed': 'It is not needed any more',
  } as Record<string, string>,
  whyOf: (fate: Shown, kind: Shown) => `${fate}: ${kind}`,
  noReason: 'no reason of its own',
  byChoice: 'by choice',
  keptUnread: (n: Shown) => `Kept in the copy all the same, as the phone gave them: ${n}.`,
  whyHeads: { why: 'Why', items: 'Items' },
  openWhy: (n: Shown, fate: Shown, kind: Shown) => `${n} ${fate}: ${kind}`,
  inLocker: 'Stored',
  countOf: (id: Shown) => `Counts of copy ${id}`,
}

/** index.vue: copies that end soon */
export const endingSoon = {
  title: 'Lockers that end',
  one: (id: Shown, customer: Shown, when: Shown) => `Copy ${id}, ${customer}: ${when}`,
}

/** lockers/LookBoard.vue */
export const lookBoard = {
  title: (id: Shown) => `Looking into copy ${id}`,
  comparing: (one: Shown, other: Shown) => `Comparing ${one} with ${other}`,
  copyOf: (id: Shown, day: Shown) => (day ? `copy ${id} as of ${day}` : `copy ${id}`),
  thePhone: (model: Shown) => `the ${model}`,
  phoneNow: (model: Shown) => `the ${model} as it is now`,
  compareLead:
    'Equal is what says the same, one for one. Of one phone, what was changed in between is told by itself; it opens as it is on the first side.',
  notReady: 'The phone is not ready to be read yet; its list ticks itself.',
  readNow: 'Read it and compare',
  heads: {
    inOld: (one: Shown) => `In ${one}`,
    onlyOld: (one: Shown) => `Only in ${one}`,
    both: 'In both',
    changed: 'Changed in between',
    onlyNew: (other: Shown) => `Only in ${other}`,
    inNew: (other: Shown) => `In ${other}`,
  },
  countOf: (items: Shown, head: Shown) => `${items}: ${head}`,
  reading: 'The copy is being read. What is read already can be opened.',
  closed: 'This look is closed, and what was read for it is erased. The copy itself is as it was.',
  asOf: (day: Shown, short: Shown) =>
    `As of ${day}${short === '0' ? '; nothing was short then' : `; ${short} short then`}. Names stay hidden until they are shown, and who had them shown is kept.`,
  whatItHolds: 'What the copy holds',
  filters: {
    all: 'In the copy',
    read: 'In the copy',
    pending: '',
    notChosen: '',
    toCome: 'Only on this side',
    willBeThere: 'In both',
    first: 'On the other side',
    cameOtherwise: 'Only on the other side',
  } as Record<string, string>,
  inCopy: 'In the copy',
  unreadable: 'Unreadable',
  size: 'Size as read',
  lookBy: 'Look by',
  by: (one: Shown) => `By ${one}`,
  openOne: (items: Shown) => `${items} of the copy`,
  openUnreadable: (items: Shown) => `${items} unreadable`,
  putBack: 'Put it back on a phone',
  close: 'Close the look',
  panelLead: 'Press a count to open its items here.',
}

/** lockers/CompareDialog.vue */
export const compareDialog = {
  title: (id: Shown) => `Compare copy ${id}`,
  with: 'With',
  copy: (id: Shown, model: Shown, day: Shown) => `Copy ${id}, ${model} as of ${day}`,
  phone: (model: Shown, port: Shown) => `The ${model} in port ${port}, as it is now`,
  nothingThere: 'There is no other copy that can be looked into, and no phone in a port without a ticket. Plug the phone in to compare it.',
  compare: 'Compare',
}
