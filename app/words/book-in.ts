import { type Shown } from './say.ts'

/** book-in/CrossTable.vue */
export const crossTable = {
  nameBothPhones: 'Name both phones to see what comes over whole, what changes on the way, and what can’t cross.',
  countedLater: 'How many of this customer’s it concerns is counted after Count in, before anything is written.',
}

/** book-in/IntakeList.vue */
export const intakeList = {
  canWeTakeIt: 'Can we take it?',
  allAskedNothingStands: 'All asked: nothing stands against it',
  notAskedYet: (n: Shown) => `; ${n} not asked yet`,
}

/** book-in/PhonePick.vue */
export const phonePick = {
  port: (port: Shown) => `port ${port}`,
  after: (bytes: Shown) => `after ${bytes}…`,
  pluggedInWithoutTicket: 'Plugged in, without a ticket',
  noLongerFree: 'no longer free',
  none: 'None. Plug it in, or name its model:',
  orModel: 'Not plugged in yet: model',
  orFiles: 'Or files: contacts (.vcf), a calendar (.ics), or a ZIP of such, dropped here',
  preview: 'Preview.',
  ofThemUnreadable: (unreadable: Shown) => `, ${unreadable} of them unreadable`,
  takingItIn: 'taking it in…',
  lookingIntoFile: 'Looking into the file…',
  inFile: (held: Shown) => `${held} in the file`,
}

/** book-in/use-file.ts */
export const useFile = {
  notTaken: 'nothing Corvend takes',
  file: 'File',
  notRead: 'The file could not be read. Try again.',
}

/** book-in.vue */
export const bookInPage = {
  telephoneToCall: 'Telephone, to call when ready',
  whatIsWanted: 'What is wanted',
  straightThrough: 'Straight through: once both phones are ready, count in, carry and check by itself',
  withinForetold: 'Within what is foretold here; it waits for you where somebody must decide.',
  bookTicketIn: 'Book the ticket in',
  dontTake: 'Don’t take it, as the answers stand.',
  stillNeeded: (missing: Shown) => `Still needed: ${missing}.`,
  tabTitle: 'Book in · Corvend',
  needsName: 'the customer’s name',
  needsOld: 'the old phone',
  needsNew: 'the new phone',
  needsPromise: 'the promise',
  needsKind: 'a kind to carry',
  samePhone: 'The old and the new phone are the same phone. Choose another port for one of them.',
}
