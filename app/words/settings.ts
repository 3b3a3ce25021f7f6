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
