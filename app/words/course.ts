import { type Shown } from './say.ts'
import type { ActCode, ActView } from '#contracts/http/course.ts'
import { errors, isErrorCode } from '#contracts/errors.ts'
import { number, reason } from './say.ts'
import { words } from './words.ts'

const runs: Readonly<Record<string, string>> = {
  'count-in': 'Count in',
  carry: 'Carrying',
  'check-off': 'The check',
  'take-away': 'Taking away',
}
const showReasons: Readonly<Record<string, string>> = {
  'sample-with-customer': 'samples with the customer',
  'check-difference': 'to look into a difference',
  'choose-items': 'to choose items',
  'customer-asks': 'the customer asked',
}
const stops: Readonly<Record<string, string>> = {
  roles: 'the phones look mixed up',
  'does-not-fit': 'it does not fit on the new phone',
  'people-on-both': 'there are people on both phones',
  'loss-not-foretold': 'something would be lost that nobody foretold',
  'after-promise': 'it would be over after the promise',
}
/** Why a ticket that runs by itself waits for somebody. */
export const stopWords = (code: string): string => stops[code] ?? code

const edited: Readonly<Record<string, string>> = {
  customer: 'Customer changed',
  promise: 'Promise changed',
  old: 'Old phone booked anew',
  new: 'New phone booked anew',
}
const choices: Readonly<Record<string, string>> = { all: 'all chosen', none: 'none chosen', slice: 'a slice chosen or left' }
const ways: Readonly<Record<string, string>> = {
  'since-year': 'only the newest years of photos',
  'no-large': 'no large files',
  'no-long': 'nothing long',
  without: 'without a kind',
  favourites: 'only favourite photos',
}
const kind = ({ kind: code }: ActView) => (code ? (words.kinds[code] ?? code) : '')
const phone = ({ side }: ActView) => (side === 'old' ? 'OLD phone' : 'NEW phone')
const need = ({ code, title }: ActView) => title ?? (code ?? '').replaceAll('-', ' ')
const counted = ({ n, of }: ActView) =>
  n === null ? '' : of !== null && of > n ? `, ${number(n)} of ${number(of)}` : n > 0 ? `, ${number(n)}` : ''

/** What was done, as a line of the course; who did it and when stand beside. */
const lines: Readonly<Record<ActCode, (act: ActView) => string>> = {
  booked: () => 'Booked in',
  edited: ({ code }) => edited[code ?? ''] ?? 'Booking changed',
  'kind-added': (act) => `${kind(act)} added`,
  'kind-removed': (act) => `${kind(act)} taken off the ticket`,
  'phone-named': (act) => `${phone(act)} named`,
  'need-ticked': (act) => `${phone(act)}: “${need(act)}” looked at and ticked`,
  'need-waived': (act) =>
    `${phone(act)}: “${need(act)}” left out${act.why ? `, ${(words.waiveReasons[act.why] ?? act.why).toLowerCase()}` : ''}`,
  'need-open': (act) => `${phone(act)}: “${need(act)}” open again`,
  'count-in': ({ why }) => (why === 'straight' ? 'Count in begun by itself, straight through' : 'Count in begun'),
  chosen: (act) => `${kind(act)}: ${choices[act.code ?? ''] ?? `${number(act.n ?? 0)} ${act.n === 1 ? 'item' : 'items'} chosen or left`}`,
  first: (act) => (act.kind ? `${kind(act)} put before all else` : 'The usual order again'),
  'way-out': ({ code }) => `Made to fit: ${ways[code ?? ''] ?? code}`,
  joined: (act) => `People on both phones: ${act.n === null ? 'decided by a rule' : `${number(act.n)} decided`}`,
  undo: () => 'Joined people put back as they were',
  counterpart: () => 'What stands in for an app was chosen',
  moved: ({ code }) => (code === 'no' ? 'A tied app: not moved after all' : 'A tied app: moved by hand'),
  'straight-on': () => 'Set to run straight through',
  'straight-off': () => 'No longer straight through',
  'straight-stopped': ({ code }) => `Waited for somebody: ${stopWords(code ?? '')}`,
  carry: ({ why }) => (why === 'straight' ? 'Carrying begun by itself, straight through' : 'Carrying begun'),
  'paused-by-hand': () => 'Paused',
  'resumed-run': () => 'Resumed',
  stopped: () => 'Stopped',
  waits: (act) => {
    const sentence = act.why && isErrorCode(act.why) ? errors[act.why].sentence : 'It waited.'
    return `${runs[act.code ?? ''] ?? 'A run'} waited${act.side ? `, ${phone(act)}` : ''}: ${sentence}`
  },
  ended: (act) => `${runs[act.code ?? ''] ?? 'A run'} ended${act.code === 'check-off' || act.code === 'take-away' ? '' : counted(act)}`,
  'check-off': () => 'Check begun',
  again: (act) => `${kind(act)}: what is ${(words.filters[act.code ?? ''] ?? '').toLowerCase()} waits to be carried again`,
  'take-away': (act) => `${kind(act)}: what was left behind is taken away`,
  accepted: (act) => `${kind(act)}: the customer accepted the difference`,
  'not-accepted': (act) => `${kind(act)}: acceptance taken back`,
  'put-back': (act) => `${phone(act)}: “${need(act)}” ${act.why === 'waived' ? 'left, as the customer wishes' : 'put back'}`,
  shown: ({ why }) => `Names shown: ${showReasons[why ?? ''] ?? reason(why ?? '')}`,
  hidden: () => 'Names hidden',
  'file-out': (act) => `${kind(act)} taken out as a file (${act.code})`,
  'taken-home': () => 'The files to take home were fetched',
  'home-locked': ({ code }) =>
    code === 'none' ? 'The files to take home: password taken off' : 'The files to take home: locked with a password',
  note: () => 'Note',
  told: ({ code }) => `Text for the customer copied: ${code === 'ready' ? 'ready' : code === 'late' ? 'late' : 'needed at the shop'}`,
  rested: () => 'Stopped, both phones given back',
  resumed: () => 'Taken up again',
  'handed-over': ({ to }) => `Handed over to ${to ?? 'a colleague'}`,
  'new-exchanged': ({ phone: model }) => `New phone exchanged: the ${model ?? 'former one'} was given back`,
  'called-off': () => 'Called off',
  printed: () => 'Sheet printed',
  signed: ({ code }) => (code === 'with-what-stands' ? 'Signed with what stands' : 'Signed'),
  voided: () => 'The signed sheet became void: the figures moved',
  erased: () => 'Handed back; the data erased',
}

/** One line of the course of a ticket. */
export function actLine(act: ActView): string {
  return lines[act.what](act)
}

/** Groups the course is narrowed to. */
export const actGroups: Readonly<Record<string, readonly ActCode[]>> = {
  'Runs and waits': [
    'count-in',
    'carry',
    'check-off',
    'take-away',
    'undo',
    'paused-by-hand',
    'resumed-run',
    'stopped',
    'waits',
    'ended',
    'straight-on',
    'straight-off',
    'straight-stopped',
  ],
  'Choices and changes': [
    'booked',
    'edited',
    'kind-added',
    'kind-removed',
    'phone-named',
    'need-ticked',
    'need-waived',
    'need-open',
    'chosen',
    'first',
    'way-out',
    'joined',
    'counterpart',
    'moved',
    'again',
    'put-back',
  ],
  'Names shown': ['shown', 'hidden', 'file-out', 'taken-home', 'home-locked'],
  'Notes and hand-overs': ['note', 'told', 'rested', 'resumed', 'handed-over', 'new-exchanged', 'called-off'],
  'Sheet and end': ['accepted', 'not-accepted', 'printed', 'signed', 'voided', 'erased'],
}

/** course/CourseList.vue */
export const courseList = {
  course: 'The course',
  when: 'When',
  what: 'What',
  wordsErased: '(words erased)',
  byItself: 'by itself',
}

/** course/[number].vue */
export const coursePage = {
  everybody: 'Everybody',
  byItself: 'By itself',
  nothingOfThat: 'Nothing of that.',
  lines: (n: Shown, all: Shown) => `${n} of ${all} lines. It stays when the data is erased; the words of notes go.`,
  tabTitle: (number: Shown) => `Who did what, ${number} · Corvend`,
}
