import { number, type Shown } from './say.ts'

/** sheet/SheetInstall.vue */
export const sheetInstall = {
  codeLabel: 'Code that opens the list of apps to install',
  appsByHand: 'Apps by hand',
  byHand: (apps: number) => `${number(apps)} ${apps === 1 ? 'app is' : 'apps are'} installed by hand from the new phone’s own store.`,
  camera: (link: Shown) => `Point its camera at the code to open the list, or go to ${link}.`,
  namedHere: 'They are named here; the code holds the same list as text.',
  tied: (tied: number) =>
    `${number(tied)} ${tied === 1 ? 'app is' : 'apps are'} tied to the old phone (bank, sign-in codes, wallet or chat account). Move ${tied === 1 ? 'it' : 'each'} by hand, in the app itself, before the old phone is wiped or given away.`,
}

/** sheet/SheetReasons.vue */
export const sheetReasons = {
  whatElse: 'What else is on the new phone',
}

/** sheet/SheetTable.vue */
export const sheetTable = {
  howToRead:
    'The count of the old phone is the sum of the columns after it, up to Did not come; a column that is empty for every kind is left out. Expected is the first count of the new phone and what it took; who was joined with a contact that was there adds none.',
}

/** list/[code].vue */
export const listPage = {
  title: (model: Shown) => `Apps to install on your ${model}`,
  lead: (endsAt: Shown) =>
    `Each is installed with your own account. What was in the old app does not come along. This list can be read until ${endsAt}.`,
  openingList: 'Opening the list…',
  gone: 'There is no list here any more. Ask the shop that moved your phone for another.',
  tabTitle: 'Apps to install',
}

/** sheet/[number].vue */
export const sheetPage = {
  erased: 'erased',
  customerErased: 'The customer (name erased)',
  printSheet: 'Print the sheet',
  withWhoDidWhat: 'With who did what',
  doneBy: 'Done by',
  stopped: (restingAt: Shown) =>
    `Stopped on ${restingAt}; both phones were given back. What came over stays, and the work can be taken up again.`,
  interim: 'Interim sheet: the counts are not agreed yet.',
  signedWithWhatStands: 'Signed with what stands: the counts below are not agreed.',
  counted: 'Counted on both phones after carrying, and compared item by item.',
  lastReadOn: (lookedAt: Shown) => `Last read on ${lookedAt}.`,
  countedAgain: 'The phones were counted again since this was signed, and the figures are others than those below.',
  voided: (at: Shown, digest: Shown, voidedAt: Shown) =>
    `The sheet signed on ${at}, number ${digest}, is void since ${voidedAt}: the phones were counted again, and the figures moved. This one takes its place.`,
  openPoints: 'Open points',
  leftAndByHand: 'Left and by hand',
  settingsPutBack: 'Settings put back',
  stillToPutBack: 'Still to be put back',
  leftAsCustomerWishes: ': left, as the customer wishes',
  notYet: ': not yet',
  wasGivenBack: (phone: Shown, at: Shown, newModel: Shown) =>
    `The ${phone} was given back as faulty on ${at}; the counts are those of the ${newModel}.`,
  accepted: (by: Shown, kind: Shown, what: Shown, at: Shown) => `${by} accepted ${kind}, ${what}, ${at}.`,
  nameErased: 'name erased',
  keptAsSigned: (digest: Shown) => `Kept as signed, number ${digest}`,
  namesErased: '. Names were erased with the data.',
  tabTitle: (number: Shown) => `Sheet ${number} · Corvend`,
  notMet: 'a count that is not met',
  serialErased: ', serial erased',
}
