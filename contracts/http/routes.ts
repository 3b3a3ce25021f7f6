import { z } from 'zod'
import { kindCode, ticketNumber } from './fields.ts'
import { entryPage, groupPage, joiningPage, joiningSides, ledgerRow } from './ledger.ts'
import {
  appBody,
  appsView,
  candidatesView,
  counterpartBody,
  firstBody,
  installListView,
  installPageView,
  monthsBody,
  monthsView,
  movedBody,
  thumbnailBody,
  wayOutBody,
} from './media.ts'
import {
  crossingView,
  exchangeBody,
  guideIndexView,
  guidePairBody,
  guidePhoneBody,
  guidePhoneView,
  handOverBody,
  markPortBody,
  needBody,
  putBackBody,
  restBody,
} from './ready.ts'
import { courseView, noteBody, toldBody } from './course.ts'
import { closeBody, destroyBody, keepBody, lockersBody, lockersView, lookBody } from './lockers.ts'
import { addresses } from './paths.ts'
import { beginUploadBody, fileNo, notTakenView, sortUploadBody, uploadId, uploadView } from './uploads.ts'
import {
  counterpartWordBody,
  firstStartBody,
  pastBody,
  pastPage,
  portNameBody,
  settingsView,
  shopBody,
  shopView,
  staffBody,
  staffChangeBody,
} from './shop.ts'
import { done, nothing, route, type Route } from './route.ts'
import {
  acceptBody,
  againBody,
  bookInBody,
  bookingView,
  callOffBody,
  carryBody,
  chooseBody,
  decideBody,
  editBody,
  eraseBody,
  groupsBody,
  itemBody,
  itemView,
  joiningBody,
  joiningsBody,
  kindsBody,
  lockHomeBody,
  rolesBody,
  searchBody,
  sessionView,
  sheetView,
  showBody,
  straightBody,
  signBody,
  signInBody,
  takeAwayBody,
  ticketView,
  todayView,
  undoBody,
} from './ticket.ts'

const ofTicket = z.object({ number: ticketNumber })
const ofKind = z.object({ number: ticketNumber, kind: kindCode })
const ofId = z.object({ id: z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER) })
const ofCopy = z.object({ copy: z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER) })
const ofPort = z.object({ port: z.coerce.number().int().min(0).max(10_000) })
const n = z.number().int()
/** The run that was started. */
const started = z.object({ run: n })
const withTicket = z.object({ with: z.literal('ticket').optional() })
const person = z.object({ name: z.string(), initials: z.string() })

/** An act of a ticket: who asks for it has the ticket, as it stands then, in the same answer. */
const act = <P extends z.ZodType, B extends z.ZodType = typeof nothing, R extends z.ZodType = typeof done>(
  wish: Omit<Parameters<typeof route<P, z.ZodType, B, R>>[0], 'query'>,
) => ({
  ...route<P, typeof withTicket, B, R>({ ...wish, query: withTicket }),
  reply: z.intersection((wish.reply ?? done) as R, z.object({ ticket: ticketView.optional() })),
})

const session = {
  health: route({ ...addresses.health, says: 'Answers while the web process does.', needs: 'nobody' }),
  openApi: route({
    ...addresses.openApi,
    says: 'This interface as an OpenAPI 3.1 document.',
    needs: 'nobody',
    reply: z.record(z.string(), z.unknown()),
  }),
  signIn: route({
    ...addresses.signIn,
    says: 'Signs in by name and PIN; the session is a cookie.',
    needs: 'nobody',
    body: signInBody,
    mostBytes: 16_000,
    reply: person,
  }),
  whoAmI: route({
    ...addresses.whoAmI,
    says: 'Who is signed in, and the shop.',
    reply: person.extend({
      shop: shopView,
      hasPractice: z.boolean(),
      /** The shop's benches; ports are numbered through the shop. */
      stations: z.array(z.object({ code: z.string(), name: z.string(), firstPort: z.number().int(), hasPractice: z.boolean() })),
    }),
  }),
  firstStart: route({
    ...addresses.firstStart,
    says: 'Sets a new shop up with its first member of staff, once.',
    needs: 'nobody',
    body: firstStartBody,
    mostBytes: 16_000,
  }),
  isNew: route({
    ...addresses.isNew,
    says: 'Whether this shop is still to be set up.',
    needs: 'nobody',
    reply: z.object({ isNew: z.boolean() }),
  }),
  settings: route({ ...addresses.settings, says: 'The settings of the shop, and who changed them.', reply: settingsView }),
  setShop: route({
    ...addresses.setShop,
    says: 'Changes what the shop says of itself, and how long it keeps things.',
    body: shopBody,
  }),
  hire: route({ ...addresses.hire, says: 'A new member of staff.', body: staffBody }),
  changeStaff: route({
    ...addresses.changeStaff,
    says: 'Changes a member of staff: name, initials, PIN, whether they work here.',
    params: ofId,
    body: staffChangeBody,
  }),
  namePort: route({
    ...addresses.namePort,
    says: 'Names a port as the shop calls it.',
    params: ofPort,
    body: portNameBody,
  }),
  setCounterpart: route({
    ...addresses.setCounterpart,
    says: 'Corrects or forgets what the shop remembers of an app’s counterpart.',
    body: counterpartWordBody,
  }),
  past: route({
    ...addresses.past,
    says: 'Past tickets and open ones, a page at a time.',
    body: pastBody,
    reply: pastPage,
  }),
  lockers: route({
    ...addresses.lockers,
    says: 'The copies kept in lockers, or those destroyed, with their counts, a page at a time.',
    body: lockersBody,
    reply: lockersView,
  }),
  lookInto: route({
    ...addresses.lookInto,
    says: 'Looks into a copy, or compares it: answers with the number of the look, which is read like a ticket.',
    params: ofCopy,
    body: lookBody,
    reply: z.object({ number: z.string() }),
    status: 201,
  }),
  closeLook: route({
    ...addresses.closeLook,
    says: 'Closes a look: what was read for it is erased.',
    params: ofTicket,
  }),
  keepCopy: route({
    ...addresses.keepCopy,
    says: 'Keeps a copy until another day.',
    params: ofCopy,
    body: keepBody,
  }),
  closeCopy: route({
    ...addresses.closeCopy,
    says: 'Closes a copy by its owner’s passphrase; nobody can recover it.',
    params: ofCopy,
    body: closeBody,
  }),
  destroyCopy: route({
    ...addresses.destroyCopy,
    says: 'Destroys a copy now, its key first; its counts stay.',
    params: ofCopy,
    body: destroyBody,
  }),
  sessions: route({
    ...addresses.sessions,
    says: 'Where one is signed in.',
    reply: z.object({ sessions: z.array(sessionView) }),
  }),
  endSession: route({
    ...addresses.endSession,
    says: 'Ends a session of one’s own.',
    params: ofId,
  }),
  signOut: route({ ...addresses.signOut, says: 'Signs out.' }),
  staff: route({ ...addresses.staff, says: 'Who works here.', reply: z.object({ staff: z.array(person) }) }),
  events: route({
    ...addresses.events,
    says: 'Server-sent events: which tickets changed, what the bench is. It resumes by Last-Event-ID, and ends with its session.',
    query: z.object({ since: z.string().max(20).optional() }),
    sends: 'events',
  }),
}

const bench = {
  today: route({ ...addresses.today, says: 'The open tickets and the bench.', reply: todayView }),
  markPort: route({
    ...addresses.markPort,
    says: 'Shows a word on the phone at a port.',
    params: ofPort,
    body: markPortBody,
  }),
  guide: route({ ...addresses.guide, says: 'The models the guide knows.', reply: guideIndexView }),
  guidePhone: route({
    ...addresses.guidePhone,
    says: 'All that is known of one phone.',
    body: guidePhoneBody,
    reply: guidePhoneView,
  }),
  guidePair: route({
    ...addresses.guidePair,
    says: 'What crosses between two phones.',
    body: guidePairBody,
    reply: z.object({ kinds: z.array(crossingView) }),
  }),
  takeUpload: route({
    ...addresses.takeUpload,
    says: 'Takes one file in whole: cards, calls, a calendar, messages, a picture, or a ZIP of such. It goes after an hour if nobody books it.',
    mostBytes: 500_000_000,
    reply: z.object({ upload: z.string(), items: z.record(z.string(), n), others: n, sizeBytes: n }),
  }),
  beginUpload: route({
    ...addresses.beginUpload,
    says: 'Begins to take files in, or goes on with those of an upload: they are known by size, time and beginning.',
    body: beginUploadBody,
    mostBytes: 20_000_000,
    reply: z.object({ upload: z.string(), files: z.array(z.object({ no: n, gotBytes: n })) }),
  }),
  takePiece: route({
    ...addresses.takePiece,
    says: 'Takes the next piece of a file: 8 MiB, the last what is left.',
    params: z.object({ upload: uploadId, no: fileNo }),
    query: z.object({ from: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER) }),
    mostBytes: 8_388_608,
    reply: z.object({ gotBytes: n }),
  }),
  sortUpload: route({
    ...addresses.sortUpload,
    says: 'Sorts what came by what it holds, once all of it is there.',
    params: z.object({ upload: uploadId }),
    body: sortUploadBody,
    reply: uploadView,
  }),
  upload: route({
    ...addresses.upload,
    says: 'How an upload stands, what it holds, and what of it is not taken and why.',
    params: z.object({ upload: uploadId }),
    reply: uploadView,
  }),
}

const line = {
  bookIn: route({
    ...addresses.bookIn,
    says: 'Books a ticket in.',
    body: bookInBody,
    reply: z.object({ number: z.string() }),
    status: 201,
  }),
  ticket: route({ ...addresses.ticket, says: 'A ticket whole.', params: ofTicket, reply: ticketView }),
  ledger: route({
    ...addresses.ledger,
    says: 'Its ledger, a row a kind.',
    params: ofTicket,
    reply: z.object({ kinds: z.array(ledgerRow) }),
  }),
  booking: route({
    ...addresses.booking,
    says: 'What was booked, in full.',
    params: ofTicket,
    reply: bookingView,
  }),
  edit: act({
    ...addresses.edit,
    says: 'Changes the booking: customer and promise at any time, phones while nothing is written.',
    params: ofTicket,
    body: editBody,
  }),
  straight: act({
    ...addresses.straight,
    says: 'Has it run by itself from ready phones to the check, or no longer.',
    params: ofTicket,
    body: straightBody,
  }),
  changeKinds: act({
    ...addresses.changeKinds,
    says: 'Adds kinds, and lets go such of which nothing is written.',
    params: ofTicket,
    body: kindsBody,
  }),
  setRoles: act({
    ...addresses.setRoles,
    says: 'Says which phone is old and which is new.',
    params: ofTicket,
    body: rolesBody,
  }),
  setNeed: act({
    ...addresses.setNeed,
    says: 'Ticks a need, waives one with a reason, or takes that back.',
    params: ofTicket,
    body: needBody,
  }),
  putBack: act({
    ...addresses.putBack,
    says: 'Ticks a setting that was put back, or waives it by name.',
    params: ofTicket,
    body: putBackBody,
  }),
  countIn: act({ ...addresses.countIn, says: 'Counts both phones in.', params: ofTicket, reply: started }),
  choose: act({
    ...addresses.choose,
    says: 'Chooses all of a kind, none, single items or a slice.',
    params: ofKind,
    body: chooseBody,
  }),
  putFirst: act({
    ...addresses.putFirst,
    says: 'Names the kind that goes before all others.',
    params: ofTicket,
    body: firstBody,
  }),
  takeWayOut: act({
    ...addresses.takeWayOut,
    says: 'Leaves out what has no room.',
    params: ofTicket,
    body: wayOutBody,
  }),
  decide: act({
    ...addresses.decide,
    says: 'Decides who of both phones is joined.',
    params: ofKind,
    body: decideBody,
  }),
  undoJoinings: act({
    ...addresses.undoJoinings,
    says: 'Puts joined records back as they were.',
    params: ofKind,
    body: undoBody,
    reply: started,
  }),
  carry: act({ ...addresses.carry, says: 'Carries over.', params: ofTicket, body: carryBody, reply: started }),
  pause: act({ ...addresses.pause, says: 'Pauses what runs.', params: ofTicket }),
  resumeRun: act({ ...addresses.resumeRun, says: 'Goes on with what was paused.', params: ofTicket }),
  stop: act({ ...addresses.stop, says: 'Stops what runs or waits.', params: ofTicket }),
  checkOff: act({
    ...addresses.checkOff,
    says: 'Counts both phones afresh and compares.',
    params: ofTicket,
    reply: started,
  }),
  again: act({
    ...addresses.again,
    says: 'Puts what ended back among what waits.',
    params: ofKind,
    body: againBody,
    reply: z.object({ waiting: n }),
  }),
  accept: act({
    ...addresses.accept,
    says: 'The customer accepts a difference, by name.',
    params: ofKind,
    body: acceptBody,
  }),
  takeBackAccept: act({
    ...addresses.takeBackAccept,
    says: 'The customer does not accept it after all.',
    params: ofKind,
  }),
  takeAway: act({
    ...addresses.takeAway,
    says: 'Takes away what was left behind on the new phone.',
    params: ofKind,
    body: takeAwayBody,
    reply: started,
  }),
  printed: route({ ...addresses.printed, says: 'The sheet was printed.', params: ofTicket }),
  sign: act({ ...addresses.sign, says: 'Signs the sheet.', params: ofTicket, body: signBody }),
  sheet: route({ ...addresses.sheet, says: 'The sheet.', params: ofTicket, reply: sheetView }),
  erase: act({
    ...addresses.erase,
    says: 'Hands back and erases what was read.',
    params: ofTicket,
    body: eraseBody,
  }),
}

const course = {
  rest: act({
    ...addresses.rest,
    says: 'Stops and gives both phones back for now.',
    params: ofTicket,
    body: restBody,
  }),
  resume: act({ ...addresses.resume, says: 'Takes a resting ticket up again.', params: ofTicket, body: restBody }),
  handOver: act({ ...addresses.handOver, says: 'Hands it to a colleague.', params: ofTicket, body: handOverBody }),
  exchangeNew: act({
    ...addresses.exchangeNew,
    says: 'Exchanges a faulty new phone.',
    params: ofTicket,
    body: exchangeBody,
  }),
  note: act({ ...addresses.note, says: 'Says something a colleague should know.', params: ofTicket, body: noteBody }),
  told: route({ ...addresses.told, says: 'A text for the customer was copied.', params: ofTicket, body: toldBody }),
  course: route({
    ...addresses.course,
    says: 'Who did what, and what the ticket did by itself; after erasing without words.',
    params: ofTicket,
    reply: courseView,
  }),
  callOff: act({ ...addresses.callOff, says: 'Calls it off.', params: ofTicket, body: callOffBody }),
}

const items = {
  entries: route({
    ...addresses.entries,
    says: 'The items a count opens to, a page at a time.',
    params: ofTicket,
    body: searchBody,
    reply: entryPage,
  }),
  countEntries: route({
    ...addresses.countEntries,
    says: 'How many items a search finds.',
    params: ofTicket,
    body: searchBody,
    reply: z.object({ total: n }),
  }),
  groups: route({
    ...addresses.groups,
    says: 'A kind by conversation, calendar, month or year.',
    params: ofTicket,
    body: groupsBody,
    reply: groupPage,
  }),
  months: route({
    ...addresses.months,
    says: 'A kind by month on both phones.',
    params: ofTicket,
    body: monthsBody,
    reply: monthsView,
  }),
  item: route({
    ...addresses.item,
    says: 'One item with its fields, while showing is allowed.',
    params: ofTicket,
    body: itemBody,
    reply: itemView,
  }),
  joinings: route({
    ...addresses.joinings,
    says: 'People on both phones, a page at a time.',
    params: ofTicket,
    body: joiningsBody,
    reply: joiningPage,
  }),
  joining: route({
    ...addresses.joining,
    says: 'One person of both phones, field by field.',
    params: ofTicket,
    body: joiningBody,
    reply: joiningSides,
  }),
  thumbnail: route({
    ...addresses.thumbnail,
    says: 'A small picture of one photo, while showing is allowed; empty where there is none.',
    params: ofTicket,
    body: thumbnailBody,
    sends: 'bytes',
  }),
  file: route({
    ...addresses.file,
    says: 'What the old phone holds as a file of an open format, while showing is allowed.',
    params: ofKind.extend({ format: z.string().regex(/^[a-z0-9.-]{1,20}$/) }),
    sends: 'bytes',
  }),
  takeHome: route({
    ...addresses.takeHome,
    says: 'What is taken home as files: the archive as it was proved; any part of it (RFC 9110, 14).',
    params: ofTicket,
    sends: 'bytes',
  }),
  lockTakeHome: act({
    ...addresses.lockTakeHome,
    says: 'Locks what is taken home with a password, or with none; it is made anew and read back.',
    params: ofTicket,
    body: lockHomeBody,
  }),
  notTaken: route({
    ...addresses.notTaken,
    says: 'Of the files that were brought, those that were not taken: size and why, names while showing is allowed.',
    params: ofTicket,
    reply: notTakenView,
  }),
  show: act({ ...addresses.show, says: 'Shows names for ten minutes.', params: ofTicket, body: showBody }),
  hide: act({ ...addresses.hide, says: 'Hides names again.', params: ofTicket }),
}

const apps = {
  apps: route({
    ...addresses.apps,
    says: 'The apps and what becomes of each.',
    params: ofTicket,
    reply: appsView,
  }),
  candidates: route({
    ...addresses.candidates,
    says: 'What may stand in for an app, while showing is allowed.',
    params: ofTicket,
    body: appBody,
    reply: candidatesView,
  }),
  chooseCounterpart: act({
    ...addresses.chooseCounterpart,
    says: 'Chooses what stands in for an app.',
    params: ofTicket,
    body: counterpartBody,
  }),
  markMoved: act({
    ...addresses.markMoved,
    says: 'A bound app was moved by hand.',
    params: ofTicket,
    body: movedBody,
  }),
  installList: route({
    ...addresses.installList,
    says: 'The customer’s list of what to install.',
    params: ofTicket,
    reply: installListView,
  }),
}

const lists = {
  installPage: route({
    ...addresses.installPage,
    says: 'What a customer installs by hand, for whoever has the code of the sheet.',
    needs: 'nobody',
    params: z.object({ code: z.string().regex(/^[A-HJ-NP-Z2-9]{12}$/) }),
    reply: installPageView,
  }),
}

const ofHand = z.object({ path: z.string().regex(/^[\w./-]{1,200}$/) })
/** The bench whose practice phones are meant; the first that has some, unless said. */
const ofStation = z.object({ station: z.string().max(20).optional() })
const practice = {
  lookAtPractice: route({
    ...addresses.lookAtPractice,
    says: 'What the hand on the practice phones says.',
    needs: 'practice',
    params: ofHand,
    query: ofStation.catchall(z.string().max(200)),
    reply: z.unknown(),
  }),
  moveHand: route({
    ...addresses.moveHand,
    says: 'Moves the hand on the practice phones.',
    needs: 'practice',
    params: ofHand,
    query: ofStation,
    body: z.record(z.string().max(60), z.unknown()),
    reply: z.unknown(),
  }),
  takeHandAway: route({
    ...addresses.takeHandAway,
    says: 'Takes a fault or a phone away.',
    needs: 'practice',
    params: ofHand,
    query: ofStation,
    reply: z.unknown(),
  }),
}

/** Every call of the HTTP interface, by the name code calls it by. */
export const routes = { ...session, ...bench, ...line, ...course, ...items, ...apps, ...lists, ...practice }
export type RouteName = keyof typeof routes

/** All of them, for whoever walks them. */
export const allRoutes: readonly (readonly [name: RouteName, route: Route])[] = Object.entries(routes) as never
