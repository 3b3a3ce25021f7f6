import { type Shown } from './say.ts'
/** How a ticket ended. */
export const outcomeWords: Readonly<Record<string, string>> = {
  open: 'Open',
  agreed: 'Agreed',
  accepted: 'A difference accepted',
  'signed-open': 'Signed with what stands',
  'called-off': 'Called off',
}

/** Languages by their own names. */
export const localeWords: Readonly<Record<string, string>> = {
  'en-GB': 'English (Britain)',
  'en-IE': 'English (Ireland)',
  'en-US': 'English (United States)',
  'en-AU': 'English (Australia)',
  'cy-GB': 'Cymraeg',
  'de-DE': 'Deutsch',
  'es-ES': 'Español',
  'fr-FR': 'Français',
  'it-IT': 'Italiano',
  'nl-NL': 'Nederlands',
  'pl-PL': 'Polski',
  'pt-PT': 'Português',
  'sv-SE': 'Svenska',
}

/** After how long an idle browser may be signed out, in minutes, with what the shop has now among them. */
export const idleChoices = (now: number) => [...new Set([15, 60, 240, 480, 720, now])].sort((a, b) => a - b)

/** “15 minutes”, “4 hours” */
export const idleWords = (minutes: number): string =>
  minutes < 60 || minutes % 60 ? `${minutes} minutes` : minutes === 60 ? '1 hour' : `${minutes / 60} hours`

const fields: Readonly<Record<string, string>> = {
  name: 'Name of the shop',
  address: 'Address',
  zone: 'Time zone',
  locale: 'Language of dates',
  idleMinutes: 'Minutes until an idle browser is signed out',
  receiptTerms: 'Words on the receipt',
  sheetWords: 'Words on the sheet',
  serialDays: 'Days a serial is known',
  staff: 'New member of staff',
  'staff-name': 'Name',
  'staff-initials': 'Initials',
  'staff-active': 'Works here',
  pin: 'New PIN',
  port: 'Name of port',
  counterpart: 'Counterpart corrected',
  'counterpart-forgotten': 'Counterpart forgotten',
  'first-start': 'The shop was set up by',
}

/** What was changed in the settings. */
export const changeWords = (what: string): string => fields[what] ?? what

/** settings/CounterpartTable.vue */
export const counterpartTable = {
  nothingYet: 'Nothing yet. What is chosen on a ticket’s apps to stand in for another is remembered here.',
  counterparts: 'Counterparts',
  whatStandsIn: 'What stands in',
  saidBy: 'Said by',
  forgetHead: 'Forget',
  whatStandsInFor: (name: Shown) => `What stands in for ${name}`,
  forgetOne: (name: Shown) => `Forget ${name}`,
}

/** settings/ShopForm.vue */
export const shopForm = {
  serialDays: 'Days a past ticket is found by a phone’s serial',
  receiptTerms: 'Words on the receipt: the shop’s terms',
  sheetWords: 'Words at the end of the sheet',
  kept: 'Kept',
}

/** settings/StaffTable.vue */
export const staffTable = {
  you: ', you',
  gone: 'does not work here any more',
  changeOne: (name: Shown) => `Change ${name}`,
  change: 'Change',
  takeBackOne: (name: Shown) => `Take back: ${name}`,
  letGoOne: (name: Shown) => `Let go: ${name}`,
  takeBack: 'Take back',
  letGo: 'Let go',
  addMemberOfStaff: 'Add a member of staff',
  newMemberOfStaff: 'A new member of staff',
  newPinEmpty: 'New PIN, empty to keep the old one',
  pin: 'PIN, 4 to 12 digits',
  newPinNote: 'A new PIN signs them out wherever they are signed in.',
  addThem: 'Add them',
}

/** settings/ThisBrowser.vue */
export const thisBrowser = {
  sound: 'A quiet sound when a ticket is over or waits for a hand',
  notice: 'A notice of the computer’s own, also while another window is in front',
  notAllowed: 'This browser does not allow notices for Corvend. Allow them in its own settings for this page.',
  note: 'For this browser alone. The tab’s title says it in any case. A notice names the ticket, never a customer.',
}

/** settings.vue */
export const settingsPage = {
  portsAsShopCalls: 'Ports, as the shop calls them',
  port: (port: Shown) => `Port ${port}`,
  thisBrowser: 'This browser',
  counterpartsOfApps: 'Counterparts of apps',
  whatWasChanged: 'What was changed, and by whom',
  nothingYet: 'Nothing yet.',
  changesOfSettings: 'Changes of settings',
  settingsCorvend: 'Settings · Corvend',
}
