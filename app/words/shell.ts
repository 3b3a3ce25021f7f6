import { type Shown } from './say.ts'

/** shell/AppShell.vue */
export const appShell = {
  skipToNext: 'To what comes next',
  skipToContent: 'To the content',
  main: 'Main',
  whereIsSignedIn: (initials: Shown, name: Shown) => `${initials}: where ${name} is signed in`,
  lost: 'The connection to Corvend is lost. What runs goes on; this page looks again by itself.',
  answersAgain: 'Corvend answers again.',
  lockers: 'Lockers',
  past: 'Past',
  practice: 'Practice',
}

/** shell/KeyList.vue */
export const keyList = {
  toWhatComesNext: 'on a ticket: to what comes next',
  findTicket: 'find a ticket',
  rows: 'through the rows of a table or a list; the arrows do the same',
  along: 'along a row of the ledger, or of tiles',
  openOrPress: 'open, or press',
  closeWhatIsOpen: 'close what is open',
  carryOrLeave: 'carry an item of a list, or leave it',
  thisList: 'this list',
}

/** shell/SessionList.vue */
export const sessionList = {
  isSignedIn: (name: Shown) => `${name} is signed in`,
  inAnotherBrowser: 'In another browser',
  inThisBrowser: 'In this browser',
  sinceLastUsed: (since: Shown, used: Shown) => `since ${since}, last used ${used}`,
  signItOut: 'Sign it out',
  thisHoldsForEverybody: 'This holds for everybody in the shop.',
}
