import { number, together, type Shown } from './say.ts'

/** ticket/panels/BookInPanel.vue */
export const bookInPanel = {
  erased: 'erased',
  comesBack: 'comes back',
  waitsInShop: 'waits in the shop',
  newPhone: 'NEW phone',
  oldPhone: 'OLD phone',
  version: (version: Shown) => `, version ${version}`,
  askedAtCounter: 'Asked at the counter',
  by: (bookedBy: Shown, bookedAt: Shown) => `by ${bookedBy}, ${bookedAt}`,
  changeBooking: 'Change the booking',
  openReceiptToPrint: 'Open the receipt to print it',
  telephone: 'Telephone',
  aboutCustomer: 'About the customer',
  newPhoneIsAnother: 'NEW phone is another',
  oldPhoneIsAnother: 'OLD phone is another',
  no: (model: Shown) => `No, the ${model}`,
  phonesStay: 'The phones stay as they are booked: something runs, or is written already.',
  leaveIt: 'Leave it',
  byHand: ' (by hand)',
}

/** ticket/panels/CarryPanel.vue */
export const carryPanel = {
  goesOn: 'It goes on when this page is closed. When all has come over, the new phone is counted afresh by itself.',
  stillWaits: (pending: Shown, waiting: number) =>
    `${pending} still ${waiting === 1 ? 'waits' : 'wait'}. Nothing that came over is sent again.`,
  carryTo: (pending: Shown, newModel: Shown) => `Carry ${pending} to the ${newModel}`,
  chooseAgain: 'Choose again what is carried',
  nothingRuns: 'Nothing runs. First choose what is carried.',
  over: 'Over. What counts is the check: see Check off.',
}

/** ticket/panels/CheckPanel.vue */
export const checkPanel = {
  theCount: 'the count',
  lead: 'The new phone is read afresh and compared with what was carried, item by item; the old phone is counted again.',
  readAfresh: (at: Shown) => `Read afresh at ${at}, and compared item by item.`,
  joined: (joined: Shown, all: Shown) => `${joined} joined of ${all} on both phones…`,
  putBack: (lost: Shown) => `Put the ${lost} back among what waits`,
  carryTo: (pending: Shown, newModel: Shown) => `Carry ${pending} to the ${newModel}`,
  compare: 'Count both phones afresh and compare',
  onceMore: (onceMore: Shown) => `Try ${onceMore} once more that did not come over`,
  customerAcceptsByName: (what: Shown) => `The customer accepts ${what}, by name:`,
  customerAccepts: (what: Shown) => `Customer accepts ${what}`,
  acceptedAt: (kind: Shown, by: Shown, what: Shown, at: Shown) => `${kind}: ${by} accepted ${what} at ${at}.`,
  takeItBack: 'Take it back',
}

/** ticket/panels/ChoosePanel.vue */
export const choosePanel = {
  /** Why the button says less than the ledger's Waiting. */
  waitingWhy: ({ waits, there, byHand }: { waits: number; there: number; byHand: number }) => {
    const why = [
      ...(there > 0 ? [`${number(there)} ${there === 1 ? 'is' : 'are'} on the new phone already`] : []),
      ...(byHand > 0 ? [`${number(byHand)} ${byHand === 1 ? 'is' : 'are'} installed by hand`] : []),
    ]
    return `Of the ${number(waits)} that wait, ${together(why)}.`
  },
  firstBothPhones: 'First both phones are counted in.',
  canBeChosenOnce: (kind: Shown) => `${kind} can be chosen once they are read on both phones.`,
  rolesDoubt: (newModel: Shown, oldModel: Shown) =>
    `Are the phones the right way round? The NEW ${newModel} holds more than the OLD ${oldModel} by far. If they are mixed up, exchange them at Make ready; it is asked once more before anything is written.`,
  toCarry: (kind: Shown) => `${kind} to carry`,
  chooseBy: (one: Shown) => `Choose by ${one}…`,
  byMonthOrYear: 'By month or year…',
  asTiles: 'As tiles…',
  onBoth: (people: Shown) => `${people} on both phones: join or keep both…`,
  beside: 'Added beside what the new phone holds: nothing there is overwritten, the identical is not doubled.',
  mayJoinEqualContacts: (newModel: Shown) =>
    `The ${newModel} may join equal contacts into one by itself: those then count as merged, and nothing of them is lost.`,
  of: (many: Shown) => `of ${many}`,
  carriedFirst: 'Carried first',
  lightKindsThenPhotos: 'Light kinds, then photos, apps and files',
  beforeAllElse: (kind: Shown) => `${kind}, before all else`,
  carryTo: (all: Shown, newModel: Shown) => `Carry ${all} to the ${newModel}`,
  carryNothingAndCheck: 'Carry nothing, and check both phones',
  oneByOne: 'One by one',
}

/** ticket/panels/CountInPanel.vue */
export const countInPanel = {
  of: (counted: Shown) => `of ${counted}`,
  unreadable: (n: Shown) => `${n} unreadable`,
  whole: 'whole',
  readings: 'Readings',
  oldRead: 'OLD read',
  newRead: 'NEW read',
  waits: 'waits',
  chooseAlready: (kinds: Shown) => `Choose already: ${kinds}`,
  bothPhonesAreCounted: 'Both phones are counted and read, the new one too: what it holds already is its first count.',
  phoneIsNotReady: 'A phone is not ready: see Make ready.',
  countIn: (kinds: Shown) => `Count in the ${kinds} of both phones`,
  countInAnd: (oldModel: Shown, newModel: Shown) => `Count in the ${oldModel} and the ${newModel}`,
  countBothPhones: 'Count both phones in again',
}

/** ticket/panels/DifferenceList.vue */
export const differenceList = {
  whatChangedOrDid: 'What changed or did not come over, and why',
  differences: 'Differences',
}

/** ticket/panels/ForecastTable.vue */
export const forecastTable = {
  loss: 'loss',
  kept: 'kept',
  stays: 'stays',
  whatChangesAndWhy: 'What changes, and why',
  carriedAsTheyAre: 'Carried as they are',
  changedOnWay: 'Changed on the way',
  installedByHand: 'Installed by hand, as counterparts',
  joinedWithTheirs: 'Joined with theirs',
  unreadable: 'Unreadable',
  oldCount: 'Count of the old phone',
  newPhoneThen: (first: Shown, toCarry: Shown) => `New phone then (${first} + ${toCarry})`,
  further: 'Further records it makes of them',
  free: 'Free on the new phone',
}

/** ticket/panels/HandBackPanel.vue */
export const handBackPanel = {
  calledOff: 'Called off',
  nothingMoreIsCarried: '. Nothing more is carried.',
  notYet: 'Not yet: the counts do not agree, and the customer has not accepted what is short.',
  signedWithWhatStands: 'Signed with what stands: the differences nobody accepted are named on the sheet as open.',
  openSheetToPrint: 'Open the sheet to print it',
  toInstall: (toInstall: number) =>
    `${toInstall} ${toInstall === 1 ? 'app is' : 'apps are'} on the install list; the sheet has a code that opens it. What is not installed when the sheet is signed is left to the customer.`,
  tied: (open: number, oldModel: Shown) =>
    `${open} ${open === 1 ? 'app is' : 'apps are'} tied to the OLD ${oldModel}: the customer moves ${open === 1 ? 'it' : 'each'} by hand before it is wiped or given away. See Apps.`,
  withWhatStands:
    'It can be signed with what stands: each difference that nobody accepted is named on the sheet as open, and what still waits is left behind for good.',
  customerKnows: (open: number, oldModel: Shown) =>
    `The customer knows that ${open} ${open === 1 ? 'app' : 'apps'} must be moved by hand before the OLD ${oldModel} is wiped`,
  signedBy: 'Signed by',
  signWithWhatStands: 'Signed with what stands',
  sheetIsSigned: 'The sheet is signed',
  at: (signedAt: Shown) => `at ${signedAt}.`,
  handBackAndErase: 'Hand back and erase',
  everythingGoes: (oldModel: Shown, newModel: Shown) =>
    `Everything read from the ${oldModel} and the ${newModel} goes, and the key to it. The counts remain. The phones themselves are not touched.`,
  copyStays: 'The copy in the locker stays until its date; it has a key of its own.',
  sheetWasNotPrinted: 'The sheet was not printed. Erase without giving the customer one',
  type: (number: Shown) => `Type ${number}`,
  eraseData: (number: Shown) => `Hand back and erase the data of ${number}`,
  erased: (erasedAt: Shown) => `Erased at ${erasedAt}: names, contents and the key are gone. These counts remain.`,
}

/** ticket/panels/LeftBehindBox.vue */
export const leftBehindBox = {
  leftBehindOnNew: (newModel: Shown) => `Left behind on the NEW ${newModel}`,
  whatItIs: (n: number) =>
    `${n === 1 ? 'was' : 'were'} written by this ticket and ${n === 1 ? 'belongs' : 'belong'} to nothing on the old phone any more.`,
  takeAwayAsWritten: (what: Shown, n: number) => `Take away ${what} that still ${n === 1 ? 'says' : 'say'} what was written`,
  lookFirst: (what: Shown, n: number, number: Shown) =>
    `${what} ${n === 1 ? 'reads' : 'read'} otherwise now. Look at ${n === 1 ? 'it' : 'them'} first; to take ${n === 1 ? 'it' : 'them'} away, type ${number}:`,
  takeAwayAll: (what: Shown, port: Shown) => `Take away all ${what} from port ${port}`,
}

/** ticket/panels/ReadyPanel.vue */
export const readyPanel = {
  bothPhonesAreReady: 'Both phones are ready for the wanted kinds.',
  allThatIsWanted: 'All that is wanted, by itself, within what was foretold at booking. To choose, count in first.',
  whichPhoneIs: (side: Shown) => `Which phone is ${side}`,
  whichPort: 'Which port is the',
  phoneIn: 'phone in?',
  portLine: (port: Shown, model: Shown, serial: Shown) => `port ${port}: ${model}, ${serial}`,
  thisIsPhone: (side: Shown) => `This is the ${side} phone`,
  exchangeOldAndNew: 'Exchange old and new',
  anotherPhoneIs: (side: Shown) => `Another phone is ${side}`,
  showOnIt: (side: Shown) => `Show “${side}” on it`,
  writingHasBegun:
    'Writing has begun: which phone is old and which is new stays as it is. A faulty new phone can be exchanged under “More”.',
  onPort: (port: Shown) => `, port ${port}`,
}

/** ticket/panels/RunBox.vue */
export const runBox = {
  waitsForWorker: 'It is taken up within a second. If it stays so, nothing works at this bench: start Corvend there again.',
  over: 'over',
  running: 'running',
  paused: 'paused',
  left: ' left',
  goesOn: 'It goes on by itself.',
  howFarItIs: 'How far it is',
  perSecond: (amount: Shown) => `${amount} a second`,
  stretchesOfLine: 'Parts of the line',
  afterThat: 'after that',
  of: (done: Shown, all: Shown) => `${done} of ${all}`,
  resume: 'Resume',
  pause: 'Pause',
  stopHere: 'Stop here; what came over stays',
}

/** ticket/panels/SpaceBox.vue */
export const spaceBox = {
  spaceAndTime: 'Space and time',
  converted: (items: number, growsBytes: Shown, seconds: Shown, isMeasured: boolean) =>
    `${number(items)} ${items === 1 ? 'picture is' : 'pictures are'} converted: ${growsBytes} more, ${seconds}${isMeasured ? ', by those measured on this phone' : ', by what is usual'}.`,
  restsForHeat: 'Rests for heat are reckoned in.',
  itDoesNotFit: 'It does not fit, and does not start.',
  wayOut: (items: Shown, bytes: Shown, fits: boolean) => `${items} files, ${bytes}${fits ? ': fits' : ': still too much'}`,
  chosenFiles: 'Chosen files',
  conversionAddsAbout: 'Conversion adds about',
  freeOn: (model: Shown) => `Free on the ${model}`,
  itNeedsToKeep: 'It needs to keep free',
  missing: 'Missing',
  freeAfterwards: 'Free afterwards',
  carryingAndChecking: 'Carrying and checking',
  oldPhoneGave: (bytes: Shown) => `the old phone gave ${bytes} a second`,
  favouritesOnly: 'Favourites only',
  withoutLarge: 'Without files of 50 MB and more',
  withoutLong: 'Without what is longer than 10 minutes',
  withoutKind: (many: Shown) => `Without ${many}`,
  onlyFromOn: (year: Shown) => `Only from ${year} on`,
}
