import { type Shown } from './say.ts'

/** book-in/FolderPick.vue */
export const folderPick = {
  takeHome: 'Or take it home as files',
  lead: 'One ZIP with a file of each kind, photos as they are, and a page any browser shows.',
  password: 'Password for it, where the customer wants one (eight characters at least)',
}

/** What stands where a phone would, of what is taken home. */
export const homeLine = {
  name: 'Files to take home',
  notMade: 'made when everything is carried',
  made: (files: Shown, bytes: Shown) => `${files} files, ${bytes}`,
  mark: (mark: Shown) => `mark ${mark}`,
  nothingToReady: 'Everything is put into files and sealed until the customer has them. Nothing to make ready.',
}

/** take-home/TakeHome.vue */
export const takeHome = {
  title: 'Files to take home',
  proved: (files: Shown, bytes: Shown) => `${files} files, ${bytes}. Read back whole by another reader than the one that wrote it.`,
  locked: 'Locked with the customer’s password.',
  open: 'Without a password.',
  mark: (mark: Shown) => `Its mark is ${mark}: printed on the sheet, it tells this file from any other.`,
  until: (day: Shown) => `To be had until ${day}, or until the ticket is erased.`,
  taken: (at: Shown) => `Fetched at ${at}.`,
  notTaken: 'Nobody has fetched it yet.',
  notThere: 'It is not there any more: its time is over, or it was found damaged. Count both sides again, and it is made anew.',
  notYet: 'The file is made when everything is carried, and read back before the counts are compared.',
  zipGoes: 'The ZIP goes, too: see that the customer has it.',
  zipGoesUnfetched: 'The ZIP goes, too, and nobody has fetched it yet.',
  fetch: 'Fetch the ZIP',
  intoFolder: 'Put it into a folder…',
  putting: (done: Shown, total: Shown) => `Putting file ${done} of ${total} into the folder`,
  readingBack: (done: Shown, total: Shown) => `Reading back file ${done} of ${total}`,
  inFolder: (files: Shown) => `All ${files} files are in the folder, read back one by one.`,
  notInFolder: (files: Shown) => `${files} files are not in the folder as they should be. Put them in once more.`,
  folderFailed: 'The folder could not be written. See that the stick is plugged in and has room, then try again.',
  needsPassword: 'Its password, to take it out of the ZIP',
  folderIssues: {
    'wrong-password': 'The password does not open it. Capitals and blanks count.',
    'no-zip': 'It is not there any more. Count both sides again, and it is made anew.',
    another: 'The ZIP was made anew meanwhile. Put it into the folder once more.',
    unreadable: 'The files stopped coming. See that this page still reaches the shop’s server, then put them in once more.',
  } as Record<string, string>,
  setPassword: 'Set a password…',
  changePassword: 'Change the password…',
  passwordTitle: 'A password for the files to take home',
  passwordLead:
    'The customer types it. The ZIP is made anew with it and read back. Nobody can open it without; if it is forgotten, what is in it is lost.',
  password: 'Password, eight characters at least',
  lock: 'Lock it with this',
  unlock: 'Make it without a password',
}

/** whole.vue */
export const wholePage = {
  tabTitle: 'Is this file still whole? · Corvend',
  title: 'Is this file still whole?',
  lead: 'A ZIP a customer took home from here, or from any shop that works with Corvend. It is read in this browser alone; nothing of it leaves this computer.',
  choose: 'The ZIP',
  drop: 'Drop it here, or choose it:',
  chooseIt: 'Choose the ZIP',
  reading: (done: Shown, total: Shown) => `Reading file ${done} of ${total}`,
  stop: 'Stop',
  whole: (files: Shown) => `It is whole: all ${files} files are as they were made.`,
  notWhole: (bad: Shown, files: Shown) =>
    bad === '1' ? `1 file of ${files} is not as it was made.` : `${bad} files of ${files} are not as they were made.`,
  made: (model: Shown, day: Shown) => `Made from the ${model} on ${day}.`,
  mark: (mark: Shown) => `Its mark is ${mark}. It is this customer’s file where the signed sheet shows the same.`,
  kinds: 'What it holds',
  heads: { file: 'In the file', items: 'Items', bytes: 'Size' },
  altered: 'Altered or damaged',
  missing: 'Missing',
  more: 'Not from the shop',
  showNames: 'Show which',
  names: 'Names of the files may say whose they are.',
  issues: {
    'no-zip': 'This is no ZIP, or one that breaks off. Copy it from where it came from once more.',
    'no-list': 'This ZIP was not made here: it has no list of what belongs in it.',
    'wrong-password': 'The password does not open it. Capitals and blanks count.',
    'needs-password': 'It is locked. Type the customer’s password.',
    unreadable: 'The file can’t be read. See that the stick is plugged in, then choose it again.',
  } as Record<string, string>,
  password: 'Password',
  check: 'Check it',
}
