import { number, reason, type Shown } from './say.ts'
import { words } from './words.ts'

/** ticket/AccountTable.vue */
export const accountTable = {
  readFromOldPhone: 'Read from the old phone',
  readAndLate: 'Read, and late',
  oldPhonesOwnCount: 'The old phone’s own count',
  lastCountReadAfresh: 'Last count, read afresh',
  newPhonesOwnCount: 'The new phone’s own count',
  firstCountOfNew: 'First count of the new phone',
  ofThese: (label: Shown) => `of these ${label}`,
  takenNotFound: 'Taken, not found',
  expectedThere: (side: Shown) => `${side}, expected`,
  readAfreshThere: (side: Shown) => `${side}, read afresh`,
}

/** ticket/CallOffDialog.vue */
export const callOffDialog = {
  callOff: (number: Shown) => `Call ${number} off`,
  nothingMoreIsCarried: 'Nothing more is carried, and the data can be erased.',
  whatRunsNow: 'What runs now is stopped.',
  standThere: (n: number, oldModel: Shown, newModel: Shown) =>
    `${number(n)} ${n === 1 ? 'item' : 'items'} of the OLD ${oldModel} stand on the NEW ${newModel}: they stay there, unless they are taken away.`,
  nothingWasWritten: (newModel: Shown) => `Nothing was written on the NEW ${newModel}.`,
  why: 'Why, kept sealed with the ticket',
  takeAwayFromPort: (port: Shown) => `Take away from port ${port} what still says what was written`,
  type: (number: Shown) => `Type ${number}`,
  callTicketOff: 'Call the ticket off',
}

/** ticket/CarryQuestions.vue */
export const carryQuestions = {
  arePhonesRightWay: 'Are the phones the right way round?',
  phoneNamed: 'The phone named',
  onPortHolds: (newModel: Shown, port: Shown, shown: Shown) => `, the ${newModel} on port ${port}, holds ${shown}. The`,
  one: (oldModel: Shown) => `one, the ${oldModel}`,
  onPort: (port: Shown) => `on port ${port}`,
  holds: (old: Shown) => `, holds ${old}.`,
  noGoBack: 'No: go back to Make ready',
  yesCarry: (newModel: Shown, port: Shown) => `Yes: carry to the ${newModel} on port ${port}`,
  without: (kinds: Shown) => `Without ${kinds}?`,
  nothingIsChosen: (kinds: Shown, oldModel: Shown) =>
    `Nothing is chosen of ${kinds}. They stay on the OLD ${oldModel}, and the sheet says so.`,
  noChooseAgain: 'No: choose again',
  yesCarryWithoutThem: 'Yes: carry without them',
}

/** ticket/CourseMenu.vue */
export const courseMenu = {
  takeUpAgain: (number: Shown) => `Take ${number} up again`,
  noteMore: 'Add a note…',
  tellMore: 'Tell the customer…',
  restMore: 'Stop and give both phones back…',
  kindsMore: 'Change what is carried…',
  handOverMore: 'Hand to a colleague…',
  exchangeMore: 'Exchange the new phone…',
  openSheet: 'Open the sheet as it stands',
  restLead: (oldModel: Shown, newModel: Shown) =>
    `What runs stops where it is; what came over stays. The OLD ${oldModel} and the NEW ${newModel} can be pulled, and the ticket rests until it is taken up again on any ports. The sheet as it stands says “interim”.`,
  kindsLead: (newModel: Shown) =>
    `What is added is counted in, carried and checked like all else. What is written on the NEW ${newModel} already stays on the ticket.`,
  the: (newModel: Shown) => `The ${newModel}`,
  onPort: (port: Shown) => `on port ${port}`,
  exchangeLead: (newModel: Shown) =>
    `is given back. Both phones are counted in again; what was chosen stays chosen, and nothing the ${newModel} took counts any more.`,
  noteLead:
    'It stands at the head of the ticket and on Today until it is erased; colleagues read it, the customer’s sheet does not say it.',
  itsPlaceIsTaken: 'Its place is taken by the phone on',
  portLine: (port: Shown, model: Shown, serial: Shown) => `port ${port}: ${model}, ${serial}`,
  carried: 'carried',
  noteLabel: 'Note, kept sealed with the ticket',
  rest: 'Stop and give both phones back',
  handOver: 'Hand the ticket to a colleague',
  exchange: 'Exchange the new phone',
  note: 'Add a note',
}

/** ticket/CourseNotes.vue */
export const courseNotes = {
  notesOfCourse: 'Notes of the course',
  to: (to: Shown) => `to ${to}`,
  wasGivenBack: (phone: Shown) => `: the ${phone} was given back`,
  by: (by: Shown, zone: Shown) => `by ${by}, ${zone}`,
}

/** ticket/EntryLine.vue */
export const entryLine = {
  carryItem: (position: Shown) => `Carry item ${position}`,
  no: (position: Shown) => `no. ${position}`,
}

/** ticket/FiguresTable.vue */
export const figuresTable = {
  secondFigures: 'Second figures',
  besideCount: 'Beside the count',
  figure: 'Figure',
  openByMonth: (head: Shown) => `open by month, ${head}`,
  open: 'open',
  itShows: (key: Shown) => `it shows ${key}`,
  newFirst: 'New, first',
  newLast: 'New, last',
}

/** ticket/FilesOut.vue */
export const filesOut = {
  asOpenFiles: 'As open files…',
  lead: 'What the OLD phone held when it was last read. What could not be read is not in them; attachments are named with their size and digest.',
  namesAreHiddenShow: 'Names are hidden. Show them first…',
}

/** ticket/GroupLine.vue */
export const groupLine = {
  span: (from: Shown, to: Shown) => `${from} to ${to}`,
  carryOne: (called: Shown) => `Carry ${called}`,
  chosen: (chosen: Shown) => `· ${chosen} chosen`,
  carryAllOf: (called: Shown) => `Carry all of ${called}`,
  carry: 'Carry',
  leaveAllOf: (called: Shown) => `Leave all of ${called}`,
  leave: 'Leave',
}

/** ticket/GroupsPanel.vue */
export const groupsPanel = {
  spans: { month: (n: number) => (n === 1 ? 'month' : 'months'), year: (n: number) => (n === 1 ? 'year' : 'years') },
  ofPhone: (kind: Shown, isOld: boolean) => `${kind} of the ${isOld ? 'OLD' : 'NEW'} phone`,
  countedBy: 'Counted by',
  search: (many: Shown) => `Search ${many} by name or number`,
  searchHint: 'Search by name or number',
  spansOfTime: 'Spans of time',
  slices: 'Slices',
  byYear: 'By year',
}

/** ticket/ItemsPanel.vue */
export const itemsPanel = {
  slice: 'slice',
  anyShape: 'Any shape',
  closeItems: 'Close the items',
  one: (one: Shown) => `One ${one}`,
  allAgain: 'All again',
  whichItems: 'Which items',
  shape: 'Shape',
  storage: 'Storage',
  searchNamesAndNumbers: 'Search names and numbers',
  carryAllOfThese: 'Carry all of these',
  leaveAllOfThese: 'Leave all of these',
  asList: 'As a list',
  asTiles: 'As tiles',
  items: 'Items',
}

/** ticket/JoiningDialog.vue */
export const joiningDialog = {
  field: 'Field',
  phone: 'phone',
  stayTwo: 'Stay two',
  asOne: 'As one',
  stayTwoNote: 'Both say something of their own where a record has one place: they stay two, and nothing is lost.',
  joinIntoOneRecord: 'Join into one record',
}

/** ticket/JoiningLine.vue */
export const joiningLine = {
  which: (position: Shown, shared: Shown) => `no. ${position} · ${shared}`,
  actOn: (act: Shown, position: Shown) => `${act} no. ${position}`,
  two: (against: Shown) => `Two: ${against}`,
  join: 'Join',
  keepBothOf: 'Keep both of',
  putBackOne: (position: Shown) => `Put back no. ${position}`,
  putBack: 'Put back',
  carryAsOwnOne: (position: Shown) => `Carry as its own, no. ${position}`,
  carryAsOwn: 'Carry as its own',
  bothSayTheirOwn: (fields: Shown) => `both say their own ${fields}`,
  wouldNotFit: 'as one it would not fit the new phone',
  changedMeanwhile: 'changed on the new phone meanwhile',
}

/** ticket/JoiningsPanel.vue */
export const joiningsPanel = {
  onBothPhones: 'On both phones',
  joinedOneRecordSays:
    'Joined, one record says all that both say. Who says two different things stays two. The record as it was is kept, and can be put back.',
  joinWhoShareName: (sure: Shown) => `Join the ${sure} who share name and number or mail`,
  joinAll: (can: Shown) => `Join all ${can} that can be`,
  keepAllAsTwo: 'Keep all as two',
  putBack: (joined: Shown) => `Put ${joined} back as they were`,
  nobodyIs: 'Nobody is on both phones.',
  peopleOnBothPhones: 'People on both phones',
}

/** ticket/LedgerList.vue */
export const ledgerList = {
  new: 'New:',
  openItems: (kind: Shown, head: Shown, n: Shown) => `${kind}, ${head}: ${n}. Open the items`,
}

/** ticket/LedgerTable.vue */
export const ledgerTable = {
  byMonthOldAgainst: (kind: Shown) => `${kind} by month, old against new`,
  openItems: (kind: Shown, head: Shown, row: Shown) => `${kind}, ${head}: ${row}. Open the items`,
  groupOf: (group: Shown, kinds: number) => `${group}, ${kinds} kinds`,
  openGroup: (group: Shown, head: Shown, sum: Shown) => `${group}, ${head}: ${sum}. Open or close its kinds`,
  allKinds: 'All kinds',
  onWay: 'On the way',
}

/** ticket/BesideLine.vue */
export const besideLine = {
  held: (model: Shown, held: Shown) => `Also on the ${model}, and not asked for: ${held}.`,
  unseen: (kinds: Shown) => `Not looked at: ${kinds}; the phone would ask its owner first.`,
}

/** ticket/MaskedName.vue */
export const maskedName = {
  hiddenName: 'hidden name',
}

/** ticket/MonthsChart.vue */
export const monthsChart = {
  newPhoneFirstCount: 'New phone, first count',
  newPhoneLastCount: 'New phone, last count',
}

/** ticket/MonthsDialog.vue */
export const monthsDialog = {
  byMonthOldAgainst: (kind: Shown) => `${kind} by month, old against new`,
  counting: 'Counting…',
  nothingHereSaysDate: 'Nothing here says a date.',
  tableOfChart: 'The table of the chart',
  allThatSayDate: 'All that say a date',
  month: 'Month',
  toArrive: 'To arrive',
  arrived: 'Arrived',
  newPhoneHolds: 'New phone holds',
}

/** ticket/OwnCountPanel.vue */
export const ownCountPanel = {
  closeCount: 'Close the count',
  whatCounts: (kind: Shown, side: Shown, model: Shown) => `${kind}: what the ${side} ${model} counts`,
  ownCount: 'Own count',
  itsOwnScreenShows: (persons: Shown) => `Its own screen shows ${persons}: linked records are shown there as one person.`,
  listedItemByItem: 'Listed, item by item',
  furtherRecordsOfItems: 'Further records of items',
  itsOwnCount: 'Its own count',
}

/** ticket/ShowDialog.vue */
export const showDialog = {
  showNames: 'Show names',
  namesAndNumbers: 'Names and numbers of this ticket are shown to you for 10 minutes. Your name, the reason and the time are kept.',
  why: 'Why',
  showNamesFor10: 'Show names for 10 minutes',
  keepThemHidden: 'Keep them hidden',
}

/** ticket/StagePanel.vue */
export const stagePanel = {
  signedSheetIsVoid: (voidedAt: Shown) =>
    `The signed sheet is void since ${voidedAt}: the phones were counted again, and the figures moved. It is kept; print this one and have it signed.`,
}

/** ticket/StageRibbon.vue */
export const stageRibbon = {
  erased: 'erased',
  all: 'all',
  signed: 'signed',
  waived: (n: Shown) => `${n} waived`,
  counted: (old: Shown, now: Shown) => `${old} and ${now}`,
  over: (n: Shown) => `${n} over`,
  differs: (short: Shown, over: Shown) => `${short} short, ${over} over`,
  found: (n: Shown) => `${n} found`,
  stages: 'Stages',
  done: 'done:',
  bothReady: 'both ready',
  toSeeTo: (now: Shown) => `${now} to see to`,
  notChosen: (notChosen: Shown) => `${notChosen} not chosen`,
  toPutBack: (openSettings: Shown) => `${openSettings} to put back`,
}

/** ticket/StraightBox.vue */
export const straightBox = {
  people: 'people',
  straightThrough: 'Straight through',
  head: (waits: boolean) => `Straight through${waits ? ' waits for you' : ''}`,
  whatItWaitsFor: 'What it waits for',
  allReasons: (n: Shown) => `All ${n} reasons`,
  fewer: 'Fewer',
  itTakesUp: (minutes: Shown) => `It takes up to ${minutes} min from now.`,
  lookAtForecast: 'Look at the forecast',
  seeWhoTheyAre: 'See who they are',
  chooseWhatIsLeft: 'Choose what is left out',
  itCountsInCarries: (by: Shown) =>
    `It counts in, carries and checks by itself as soon as it can, within what was foretold at booking. Set by ${by}.`,
  notByItselfAny: 'Not by itself any more',
  goOnWithThese: 'Go on with these losses',
  goOnCustomerKnows: 'Go on, the customer knows',
  carryThemAsThey: 'Carry them as they are',
  yesIsNewPhone: (newModel: Shown) => `Yes, the ${newModel} is the NEW phone`,
}

/** ticket/TellDialog.vue */
export const tellDialog = {
  sentTo: (phone: Shown) => ` and sent to ${phone}`,
  tellCustomer: 'Tell the customer',
  whatAbout: 'What about',
  textToBeCopied: (text: Shown) => `Text, to be copied${text}`,
  thisBrowserDoes: 'This browser does not let pages copy. Mark the text and copy it with the keyboard.',
  copyText: 'Copy the text',
  copied: 'Copied',
}

/** ticket/TicketAccount.vue */
export const ticketAccount = {
  account: 'The account',
  of: (many: Shown) => `of ${many}`,
  whatEachCount: 'what each count is the sum of, against the phones’ own counts',
}

/** ticket/TicketHead.vue */
export const ticketHead = {
  charge: (percent: Shown) => `, ${percent}%`,
  free: (bytes: Shown) => `, ${bytes} free`,
  to: 'to',
  port: (port: Shown) => `port ${port}`,
  handedBack: (handedBackAt: Shown) => `Handed back ${handedBackAt}`,
  promised: (promisedAt: Shown) => `Promised ${promisedAt},`,
  comesBack: 'Comes back',
  waitsInShop: 'Waits in the shop',
  note: 'Note',
  readFromFile: 'read from a file',
  notReady: 'not ready',
}

/** ticket/TouchNow.vue */
export const touchNow = {
  port: (port: Shown) => `, port ${port}`,
  touchNow: (line: Shown) => `Touch now. ${line}`,
  atTwoBenches: (old: Shown, now: Shown) => `OLD is at bench “${old}”, NEW at “${now}”: plug both in at one`,
}

/** ticket/VerdictMark.vue */
export const verdictMark = {
  accepted: 'Accepted:',
  openItems: (kind: Shown, say: Shown) => `${kind}: ${say}. Open the items`,
}

/** ticket/ledger-columns.ts */
export const ledgerColumns = {
  count: 'Count',
  waiting: 'Waiting',
  carried: 'Carried',
  changed: 'Changed',
  merged: 'Merged',
  changedThere: 'Changed there',
  didNotCome: 'Did not come',
  firstCount: 'First count',
  lastCount: 'Last count',
  metThere: 'Met there',
}

/** tickets/[number].vue */
export const ticketPage = {
  backToToday: 'Back to Today',
  opening: (number: Shown) => `Opening ${number}…`,
  carriedOrChanged: (notYetChecked: Shown) => `${notYetChecked} carried or changed, not checked on the new phone yet.`,
  /** By kind, the rule that stands against it. */
  cannotCross: (cannot: Readonly<Record<string, string>>) => {
    const kinds = Object.entries(cannot).map(([kind, rule]) => `${words.many[kind] ?? kind} (${reason(rule)})`)
    return `Can’t cross between these phones: ${kinds.join('; ')}.`
  },
  shownUntil: (showingUntil: Shown) => `Names are shown to you until ${showingUntil}.`,
  hideThemNow: 'Hide them now',
  panel: 'Panel',
  title: (runs: boolean, number: Shown, short: Shown) => `${runs ? '● ' : ''}${number} ${short} · Corvend`,
}
