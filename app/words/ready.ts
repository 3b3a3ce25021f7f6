import { type Shown } from './say.ts'

/** ready/NeedCard.vue */
export const needCard = {
  recommended: 'recommended',
  phoneCantSayYet: 'The phone can’t say yet; what stands before comes first.',
  itTicksItself: 'It ticks itself when the phone reports it.',
  waived: (reason: Shown) => `Waived: ${reason}.`,
  iHaveLooked: 'I have looked: it is done',
  goOnWithoutIt: 'Go on without it…',
  takeThatBack: 'Take that back',
  reason: 'Reason',
  waive: (title: Shown) => `Waive “${title}”`,
}

/** ready/PutBackList.vue */
export const putBackList = {
  putBackOnPhone: (side: Shown) => `Put back on the ${side} phone`,
  settingsToPutBack: (model: Shown) => `${model}: settings to put back`,
  isAsItWas: 'Looked at: as it was',
  waiveMore: 'Waive…',
  customerLeaves: 'The customer leaves it, by name',
  waive: 'Waive',
  toPutBack: 'to put back',
  asItWas: 'as it was',
  lookedAt: 'looked at',
}

/** ready/ReadyBoard.vue */
export const readyBoard = {
  makingReady: 'Making ready',
  lead: 'the lists tick themselves, and untick themselves; nothing is asked that the wanted kinds don’t need',
  byHand: (kinds: Shown) => `Wanted, and done by hand: ${kinds}. The phones are made ready for them, too.`,
}

/** ready/ReadySide.vue */
export const readySide = {
  port: (port: Shown) => `port ${port}`,
  better: 'better',
  noPort: 'no port',
  readFromFileNothing: 'Read from a file; nothing to make ready.',
  ready: 'Ready.',
  itAsks: 'It asks on its screen:',
  workArea: 'A work area is on it. It belongs to an employer or a school, and is not read.',
  likeliestFirst: (isUnseen: boolean) => `${isUnseen ? 'Plugged in and not seen?' : 'Seen, and says nothing?'} The likeliest first`,
  portsDrawCurrent: (first: Shown, last: Shown) => `ports ${first} and ${last} draw current`,
  portDrawsCurrent: (ports: Shown) => `port ${ports} draws current`,
}

/** ready/RightPhoneDialog.vue */
export const rightPhoneDialog = {
  title: 'Is it the right phone?',
  portHas: (port: Shown) => `Port ${port} has a`,
  bookedAsPhoneIs: (side: Shown) => `. Booked as the ${side} phone is a`,
  the: 'The',
  inPort: (port: Shown) => `in port ${port} was on another ticket today,`,
  whichWasHandedBack: ', which was handed back.',
  no: 'No: choose another phone',
  yes: (model: Shown, side: Shown) => `Yes: the ${model} is the ${side} phone`,
}
