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
  pluggedInWithoutTicket: 'Plugged in, without a ticket',
  noLongerFree: 'no longer free',
  none: 'None. Plug it in, or name its model:',
  orModel: 'Not plugged in yet: model',
}

/** book-in/FilePick.vue */
export const filePick = {
  orFiles:
    'Or files: contacts, calendars, messages, calls, photos, films, music, documents, books, or what was taken home from a shop; dropped here, in a ZIP, in a folder, or chosen:',
  files: 'Choose files',
  folder: 'Choose a folder',
  brokeOff: 'Taking files in broke off. Choose the same ones once more: they go on where they were.',
  preview: 'A first look.',
  after: (bytes: Shown) => ` after ${bytes}…`,
  ofThemUnreadable: (unreadable: Shown) => `, ${unreadable} of them unreadable`,
  isLocked: 'A ZIP is locked; its password is asked for.',
  looking: 'Looking into the files…',
  takingIn: 'Taking the files in',
  taken: (got: Shown, all: Shown) => `${got} of ${all} taken in`,
  sorting: 'Sorting them by what they hold…',
  password: 'The ZIP is locked. Its password',
  wrongPassword: 'That password does not open it. Its password',
  unlock: 'Open it',
  inFile: (held: Shown) => `${held} in the files`,
}

/** NotTakenList.vue */
export const notTakenList = {
  notTaken: (n: Shown) => (n === '1' ? '1 file is not taken: which, and why' : `${n} files are not taken: which, and why`),
  why: (code: string, n: number | null) =>
    ({
      'not-known': 'nothing Corvend knows',
      empty: 'it is empty',
      'zip-inside': 'a ZIP inside a ZIP; take it out, and choose it by itself',
      damaged: 'it can’t be read to its end',
      'same-as': 'the same as another file here',
      beside: 'made for reading; what it says is in the other files',
      mail: 'e-mail, and no text messages',
      'not-taken': `${n} of what it holds, tasks or the like`,
      'too-large': 'too long for a calendar',
    })[code] ?? code,
  list: 'Files that are not taken',
  further: (n: Shown) => `and ${n} more`,
}

/** book-in/use-file.ts */
export const useFile = {
  notTaken: 'nothing Corvend takes',
  file: 'Files',
}

/** book-in.vue */
export const bookInPage = {
  telephoneToCall: 'Telephone, to call when ready',
  whatIsWanted: 'What is wanted',
  moreKinds: (chosen: Shown) => `Files of other kinds: ${chosen || 'none'}`,
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
