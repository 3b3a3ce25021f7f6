import { type Shown } from './say.ts'

/** practice/FaultForm.vue */
export const faultForm = {
  from: (skip: Shown) => ` after ${skip}`,
  fault: 'Fault',
  after: 'after',
  switchOn: 'Switch on',
  switchOff: 'Switch off',
}

/** practice/PhoneScreen.vue */
export const phoneScreen = {
  hello: 'Hello',
  welcome: 'Welcome · Willkommen · Bienvenue',
  locked: 'Locked',
  dark: 'dark',
  contacts: 'contacts',
  contactsShown: (persons: Shown) => `contacts, ${persons} shown`,
  screenOf: (model: Shown, text: Shown) => `Screen of the ${model}: ${text}`,
}

/** practice/PracticePhone.vue */
export const practicePhone = {
  off: 'off',
  nothing: 'nothing',
  notPluggedIn: 'not plugged in',
  serial: 'Serial',
  atItsWelcomeScreen: 'at its welcome screen',
  inItsBox: 'in its box',
  setUp: 'set up',
  computer: 'Computer',
  portAsleep: ', port asleep',
  fallsBack: ', falls back',
  allows: 'Allows',
  answersOf: (model: Shown) => `Answers the ${model} waits for`,
  unlock: 'Unlock',
  answerYes: 'Answer “yes”',
  answerOnlyOnce: 'Answer “only once”',
  answerNo: 'Answer “no”',
  handsOn: (model: Shown) => `Hands on the ${model}`,
  pullCable: 'Pull the cable',
  pullAndPlugIn: 'Pull and plug in',
  firstFreePort: 'first free port',
  port: (n: Shown) => `port ${n}`,
  plugIn: 'Plug in',
  lock: 'Lock',
  contactComesIn: 'A contact comes in',
  fingersOnItsScreen: 'Fingers on its screen',
  press: 'Press',
}

/** practice/StateForm.vue */
export const stateForm = {
  stateAndHabits: 'State and habits',
  battery: 'Battery %',
  heatC: 'Heat °C',
  settlesMs: 'Settles ms',
  charges: 'charges',
  withdraw: (kind: Shown) => `Withdraw ${kind}`,
  stateDrawnFromSeed: 'State drawn from seed',
  drawIt: 'Draw it',
  record: 'Record',
  damage: 'Damage',
  damageIt: 'Damage it',
  editIt: 'Edit it',
  dropsSilentlyWhenFull: 'drops silently when full',
  joinsEqualContacts: 'joins equal contacts',
  fallsBackToCharging: 'falls back to charging only',
  notSeenUntilReplugged: 'not seen until replugged',
  batteryAndHeatMove: 'battery and heat move',
  hasWorkArea: 'has a work area',
  accountSyncsContactsIn: 'account syncs contacts in',
  storageFull: 'storage full',
}

/** practice.vue */
export const practicePage = {
  practicePhones: 'Practice phones',
  lead: 'your hands on made-up phones: plug, pull, unlock, answer, and break things',
  tabTitle: 'Practice phones · Corvend',
  notNow: (why: Shown) => `The phone does not do that now: ${why}.`,
}

/** What fingers do on a practice phone’s own screen. */
export const fingerWords: Readonly<Record<string, string>> = {
  'turn-on': 'Turn it on',
  'turn-off': 'Turn it off',
  'finish-welcome': 'Go through its welcome screens',
  'other-cable': 'Take a cable that carries data',
  charge: 'Charge it',
  'charge-full': 'Charge it full',
  'cool-down': 'Let it cool down',
  'screen-stay-on': 'Keep the screen on',
  'screen-as-before': 'Let the screen go off as before',
  'make-copy': 'Let it make a copy of its own',
  'pause-accounts': 'Pause its accounts',
  'resume-accounts': 'Let its accounts go on',
  'keep-messages-forever': 'Keep messages for ever',
  'keep-messages-as-before': 'Keep messages as long as before',
  'keep-photos-whole': 'Keep photos whole on the phone',
  'keep-photos-as-before': 'Keep photos as before',
  'free-space': 'Free some space',
  'update-waiting': 'Let the waiting update in',
  'sign-in': 'Sign in to the account',
  'flight-mode-on': 'Flight mode on',
  'flight-mode-off': 'Flight mode off',
  'forget-computers': 'Forget every computer',
  'cable-files': 'Set the cable to files',
  'cable-charging': 'Set the cable to charging alone',
  'turn-on-debugging': 'Turn USB debugging on',
  'turn-off-debugging': 'Turn USB debugging off',
  'turn-on-developer-options': 'Turn the developer options on',
  'turn-off-developer-options': 'Turn the developer options off',
  'install-helper': 'Install the helper',
  'remove-helper': 'Remove the helper',
  'message-app-helper': 'Make the helper the message app',
  'message-app-own': 'Make its own app the message app again',
  'allow-contacts': 'Allow contacts',
  'allow-messages': 'Allow messages',
  'allow-calls': 'Allow the call log',
  'allow-calendar': 'Allow the calendar',
  'allow-photos': 'Allow photos',
  'allow-music': 'Allow music',
  'allow-recordings': 'Allow recordings',
  'allow-voicemail': 'Allow voicemail',
  'allow-documents': 'Allow files',
  'encrypted-reading-on': 'Turn encrypted reading on',
  'encrypted-reading-off': 'Turn encrypted reading off',
  'anti-theft-off': 'Turn theft protection off',
  'anti-theft-on': 'Turn theft protection on',
  'passcode-off': 'Take the passcode off',
  'passcode-on': 'Set a passcode again',
  'chat-off': 'Turn the chat service off',
  'chat-on': 'Turn the chat service on',
  'bluetooth-on': 'Turn Bluetooth on',
  'bluetooth-off': 'Turn Bluetooth off',
  'tap-build-number': 'Tap the build number seven times',
  unlock: 'Unlock it',
  lock: 'Lock it',
  trust: 'Answer “yes” about this computer',
}

/** What is switched on, on a practice phone. */
export const switchWords: Readonly<Record<string, string>> = {
  'screen-stays-on': 'screen stays on',
  'fresh-copy': 'a fresh copy of its own',
  'accounts-still': 'accounts paused',
  'message-keep-time': 'messages kept for ever',
  'photos-whole': 'photos whole',
  'up-to-date': 'no update waits',
  'account-signed-in': 'signed in to its account',
  'flight-mode': 'flight mode',
  'cable-files': 'cable set to files',
  'developer-options': 'developer options',
  debugging: 'USB debugging',
  helper: 'helper',
  'message-app': 'helper is the message app',
  'encrypted-reading': 'encrypted reading',
  'anti-theft-off': 'theft protection off',
  'passcode-off': 'no passcode',
  'chat-off': 'chat service off',
  bluetooth: 'Bluetooth',
}

export const trustWords = { none: 'not asked yet', asked: 'it asks', trusted: 'trusted', refused: 'refused' } as const
export const cableWords = { data: 'carries data', slow: 'slow', 'charge-only': 'charges alone' } as const

/** What a phone asks about the computer, as its own screen says it. */
export const trustQuestions = {
  android: 'Allow debugging from this computer? ☐ always',
  ios: 'Trust this computer?',
  keypad: 'Pair? Code 417 260',
} as const

/** What can be done to a record in its store. */
export const damageWords = {
  'cut-card': 'break it off in the middle',
  'storage-error': 'let the storage fail at it',
  'bad-photo': 'damage its photo',
} as const

/** Where a fault happens. */
export const faultPlaces: Readonly<Record<string, string>> = {
  attach: 'When the phone is taken in hand',
  facts: 'When it is asked what it is',
  count: 'When it is asked its own count',
  'list.start': 'As a list begins',
  'list.mid': 'In the middle of a list',
  'list.end': 'At the end of a list',
  open: 'When writing to it begins',
  'write.before': 'Before records are written',
  'write.mid': 'While records are written',
  'write.record': 'At one record that is written',
  'write.after': 'After writing, before it answers',
  'file.give': 'While it gives a file',
  'file.take': 'Before it takes a file',
  'file.mid': 'While it takes a file',
  'amend.before': 'Before a record is added to',
  'amend.after': 'After a record was added to, before it answers',
  remove: 'When a record is to be taken away',
}

/** What happens there. */
export const faultWords: Readonly<Record<string, string>> = {
  cut: 'the connection breaks',
  pull: 'the cable comes out',
  lock: 'the phone locks itself',
  fail: 'it gives up',
  full: 'its storage is full',
  stall: 'it says nothing more',
  drop: 'it says yes and stores nothing',
  half: 'it stores half of it and breaks off',
  double: 'it stores it twice',
  alter: 'it stores something else',
  'join-quietly': 'it joins it into an equal one and does not say so',
  later: 'it shows it only later',
  redate: 'it gives it today’s date',
  'unknown-code': 'it answers with a code nobody knows',
  'not-json': 'it answers something that can’t be read',
  'no-end': 'the list has no end',
  'leave-out-one': 'one item is left out',
  'one-more': 'it counts one too many',
  restless: 'its count does not stand still',
  'refuse-one': 'it says “not now” to one',
  'cut-quietly': 'it cuts a text short and does not say so',
  'one-answer-less': 'one answer is missing',
  'other-bytes': 'it gives other bytes than before',
}

/** Why a practice phone does not do what fingers want. */
export const handRefusals: Readonly<Record<string, string>> = {
  'at-welcome': 'it is at its welcome screen',
  locked: 'it is locked',
  'no-such-record': 'it has no such record',
  'not-on-this-phone': 'phones of this platform have no such thing',
  'not-in-the-store': 'its store has no such app',
  'not-plugged': 'it is not plugged in',
  'nothing-asked': 'it asks nothing',
  off: 'it is off',
  'port-taken': 'the port is taken',
}

/** Why it does not do that now; what must be on first is named. */
export const handRefusal = (code: string): string =>
  handRefusals[code] ?? (code.startsWith('first-') ? `${switchWords[code.slice(6)] ?? code.slice(6)} comes first` : code)
