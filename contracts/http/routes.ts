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
import { eventsPath } from './paths.ts'
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
const ticket = '/api/tickets/{number}' as const
const kind = '/api/tickets/{number}/kinds/{kind}' as const
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
  health: route({ method: 'GET', path: '/api/health', says: 'Answers while the web process does.', needs: 'nobody' }),
  openApi: route({
    method: 'GET',
    path: '/api/openapi.json',
    says: 'This interface as an OpenAPI 3.1 document.',
    needs: 'nobody',
    reply: z.record(z.string(), z.unknown()),
  }),
  signIn: route({
    method: 'POST',
    path: '/api/session',
    says: 'Signs in by name and PIN; the session is a cookie.',
    needs: 'nobody',
    body: signInBody,
    mostBytes: 16_000,
    reply: person,
  }),
  whoAmI: route({
    method: 'GET',
    path: '/api/session',
    says: 'Who is signed in, and the shop.',
    reply: person.extend({
      shop: shopView,
      hasPractice: z.boolean(),
      /** The shop's benches; ports are numbered through the shop. */
      stations: z.array(z.object({ code: z.string(), name: z.string(), firstPort: z.number().int(), hasPractice: z.boolean() })),
    }),
  }),
  firstStart: route({
    method: 'POST',
    path: '/api/first-start',
    says: 'Sets a new shop up with its first member of staff, once.',
    needs: 'nobody',
    body: firstStartBody,
    mostBytes: 16_000,
  }),
  isNew: route({
    method: 'GET',
    path: '/api/first-start',
    says: 'Whether this shop is still to be set up.',
    needs: 'nobody',
    reply: z.object({ isNew: z.boolean() }),
  }),
  settings: route({ method: 'GET', path: '/api/shop', says: 'The settings of the shop, and who changed them.', reply: settingsView }),
  setShop: route({
    method: 'PUT',
    path: '/api/shop',
    says: 'Changes what the shop says of itself, and how long it keeps things.',
    body: shopBody,
  }),
  hire: route({ method: 'POST', path: '/api/staff', says: 'A new member of staff.', body: staffBody }),
  changeStaff: route({
    method: 'PUT',
    path: '/api/staff/{id}',
    says: 'Changes a member of staff: name, initials, PIN, whether they work here.',
    params: ofId,
    body: staffChangeBody,
  }),
  namePort: route({
    method: 'PUT',
    path: '/api/bench/{port}/name',
    says: 'Names a port as the shop calls it.',
    params: ofPort,
    body: portNameBody,
  }),
  setCounterpart: route({
    method: 'PUT',
    path: '/api/counterparts',
    says: 'Corrects or forgets what the shop remembers of an app’s counterpart.',
    body: counterpartWordBody,
  }),
  past: route({
    method: 'POST',
    path: '/api/past',
    says: 'Past tickets and open ones, a page at a time.',
    body: pastBody,
    reply: pastPage,
  }),
  lockers: route({
    method: 'POST',
    path: '/api/lockers/find',
    says: 'The copies kept in lockers, or those destroyed, with their counts, a page at a time.',
    body: lockersBody,
    reply: lockersView,
  }),
  lookInto: route({
    method: 'POST',
    path: '/api/lockers/{copy}/look',
    says: 'Looks into a copy, or compares it: answers with the number of the look, which is read like a ticket.',
    params: ofCopy,
    body: lookBody,
    reply: z.object({ number: z.string() }),
    status: 201,
  }),
  closeLook: route({
    method: 'POST',
    path: '/api/tickets/{number}/close-look',
    says: 'Closes a look: what was read for it is erased.',
    params: ofTicket,
  }),
  keepCopy: route({
    method: 'PUT',
    path: '/api/lockers/{copy}',
    says: 'Keeps a copy until another day.',
    params: ofCopy,
    body: keepBody,
  }),
  closeCopy: route({
    method: 'POST',
    path: '/api/lockers/{copy}/close',
    says: 'Closes a copy by its owner’s passphrase; nobody can recover it.',
    params: ofCopy,
    body: closeBody,
  }),
  destroyCopy: route({
    method: 'POST',
    path: '/api/lockers/{copy}/destroy',
    says: 'Destroys a copy now, its key first; its counts stay.',
    params: ofCopy,
    body: destroyBody,
  }),
  sessions: route({
    method: 'GET',
    path: '/api/sessions',
    says: 'Where one is signed in.',
    reply: z.object({ sessions: z.array(sessionView) }),
  }),
  endSession: route({
    method: 'DELETE',
    path: '/api/sessions/{id}',
    says: 'Ends a session of one’s own.',
    params: ofId,
  }),
  signOut: route({ method: 'DELETE', path: '/api/session', says: 'Signs out.' }),
  staff: route({ method: 'GET', path: '/api/staff', says: 'Who works here.', reply: z.object({ staff: z.array(person) }) }),
  events: route({
    method: 'GET',
    path: eventsPath,
    says: 'Server-sent events: which tickets changed, what the bench is. It resumes by Last-Event-ID, and ends with its session.',
    query: z.object({ since: z.string().max(20).optional() }),
    sends: 'events',
  }),
}

const bench = {
  today: route({ method: 'GET', path: '/api/today', says: 'The open tickets and the bench.', reply: todayView }),
  markPort: route({
    method: 'POST',
    path: '/api/bench/{port}/mark',
    says: 'Shows a word on the phone at a port.',
    params: ofPort,
    body: markPortBody,
  }),
  guide: route({ method: 'GET', path: '/api/guide', says: 'The models the guide knows.', reply: guideIndexView }),
  guidePhone: route({
    method: 'POST',
    path: '/api/guide/phone',
    says: 'All that is known of one phone.',
    body: guidePhoneBody,
    reply: guidePhoneView,
  }),
  guidePair: route({
    method: 'POST',
    path: '/api/guide/pair',
    says: 'What crosses between two phones.',
    body: guidePairBody,
    reply: z.object({ kinds: z.array(crossingView) }),
  }),
  takeUpload: route({
    method: 'POST',
    path: '/api/uploads',
    says: 'Takes one file in whole: cards, calls, a calendar, messages, a picture, or a ZIP of such. It goes after an hour if nobody books it.',
    takes: 'bytes',
    mostBytes: 500_000_000,
    reply: z.object({ upload: z.string(), items: z.record(z.string(), n), others: n, sizeBytes: n }),
  }),
  beginUpload: route({
    method: 'POST',
    path: '/api/uploads/begin',
    says: 'Begins to take files in, or goes on with those of an upload: they are known by size, time and beginning.',
    body: beginUploadBody,
    mostBytes: 20_000_000,
    reply: z.object({ upload: z.string(), files: z.array(z.object({ no: n, gotBytes: n })) }),
  }),
  takePiece: route({
    method: 'PUT',
    path: '/api/uploads/{upload}/files/{no}',
    says: 'Takes the next piece of a file: 8 MiB, the last what is left.',
    params: z.object({ upload: uploadId, no: fileNo }),
    query: z.object({ from: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER) }),
    takes: 'bytes',
    mostBytes: 8_388_608,
    reply: z.object({ gotBytes: n }),
  }),
  sortUpload: route({
    method: 'POST',
    path: '/api/uploads/{upload}/sort',
    says: 'Sorts what came by what it holds, once all of it is there.',
    params: z.object({ upload: uploadId }),
    body: sortUploadBody,
    reply: uploadView,
  }),
  upload: route({
    method: 'GET',
    path: '/api/uploads/{upload}',
    says: 'How an upload stands, what it holds, and what of it is not taken and why.',
    params: z.object({ upload: uploadId }),
    reply: uploadView,
  }),
}

const line = {
  bookIn: route({
    method: 'POST',
    path: '/api/tickets',
    says: 'Books a ticket in.',
    body: bookInBody,
    reply: z.object({ number: z.string() }),
    status: 201,
  }),
  ticket: route({ method: 'GET', path: ticket, says: 'A ticket whole.', params: ofTicket, reply: ticketView }),
  ledger: route({
    method: 'GET',
    path: `${ticket}/ledger`,
    says: 'Its ledger, a row a kind.',
    params: ofTicket,
    reply: z.object({ kinds: z.array(ledgerRow) }),
  }),
  booking: route({
    method: 'GET',
    path: `${ticket}/booking`,
    says: 'What was booked, in full.',
    params: ofTicket,
    reply: bookingView,
  }),
  edit: act({
    method: 'PUT',
    path: ticket,
    says: 'Changes the booking: customer and promise at any time, phones while nothing is written.',
    params: ofTicket,
    body: editBody,
  }),
  straight: act({
    method: 'POST',
    path: `${ticket}/straight`,
    says: 'Has it run by itself from ready phones to the check, or no longer.',
    params: ofTicket,
    body: straightBody,
  }),
  changeKinds: act({
    method: 'POST',
    path: `${ticket}/kinds`,
    says: 'Adds kinds, and lets go such of which nothing is written.',
    params: ofTicket,
    body: kindsBody,
  }),
  setRoles: act({
    method: 'POST',
    path: `${ticket}/roles`,
    says: 'Says which phone is old and which is new.',
    params: ofTicket,
    body: rolesBody,
  }),
  setNeed: act({
    method: 'POST',
    path: `${ticket}/needs`,
    says: 'Ticks a need, waives one with a reason, or takes that back.',
    params: ofTicket,
    body: needBody,
  }),
  putBack: act({
    method: 'POST',
    path: `${ticket}/put-back`,
    says: 'Ticks a setting that was put back, or waives it by name.',
    params: ofTicket,
    body: putBackBody,
  }),
  countIn: act({ method: 'POST', path: `${ticket}/count-in`, says: 'Counts both phones in.', params: ofTicket, reply: started }),
  choose: act({
    method: 'POST',
    path: `${kind}/choose`,
    says: 'Chooses all of a kind, none, single items or a slice.',
    params: ofKind,
    body: chooseBody,
  }),
  putFirst: act({
    method: 'POST',
    path: `${ticket}/first`,
    says: 'Names the kind that goes before all others.',
    params: ofTicket,
    body: firstBody,
  }),
  takeWayOut: act({
    method: 'POST',
    path: `${ticket}/way-out`,
    says: 'Leaves out what has no room.',
    params: ofTicket,
    body: wayOutBody,
  }),
  decide: act({
    method: 'POST',
    path: `${kind}/joinings`,
    says: 'Decides who of both phones is joined.',
    params: ofKind,
    body: decideBody,
  }),
  undoJoinings: act({
    method: 'POST',
    path: `${kind}/undo-joinings`,
    says: 'Puts joined records back as they were.',
    params: ofKind,
    body: undoBody,
    reply: started,
  }),
  carry: act({ method: 'POST', path: `${ticket}/carry`, says: 'Carries over.', params: ofTicket, body: carryBody, reply: started }),
  pause: act({ method: 'POST', path: `${ticket}/pause`, says: 'Pauses what runs.', params: ofTicket }),
  resumeRun: act({ method: 'POST', path: `${ticket}/resume-run`, says: 'Goes on with what was paused.', params: ofTicket }),
  stop: act({ method: 'POST', path: `${ticket}/stop`, says: 'Stops what runs or waits.', params: ofTicket }),
  checkOff: act({
    method: 'POST',
    path: `${ticket}/check-off`,
    says: 'Counts both phones afresh and compares.',
    params: ofTicket,
    reply: started,
  }),
  again: act({
    method: 'POST',
    path: `${kind}/again`,
    says: 'Puts what ended back among what waits.',
    params: ofKind,
    body: againBody,
    reply: z.object({ waiting: n }),
  }),
  accept: act({
    method: 'POST',
    path: `${kind}/accept`,
    says: 'The customer accepts a difference, by name.',
    params: ofKind,
    body: acceptBody,
  }),
  takeBackAccept: act({
    method: 'DELETE',
    path: `${kind}/accept`,
    says: 'The customer does not accept it after all.',
    params: ofKind,
  }),
  takeAway: act({
    method: 'POST',
    path: `${kind}/take-away`,
    says: 'Takes away what was left behind on the new phone.',
    params: ofKind,
    body: takeAwayBody,
    reply: started,
  }),
  printed: route({ method: 'POST', path: `${ticket}/printed`, says: 'The sheet was printed.', params: ofTicket }),
  sign: act({ method: 'POST', path: `${ticket}/sign`, says: 'Signs the sheet.', params: ofTicket, body: signBody }),
  sheet: route({ method: 'GET', path: `${ticket}/sheet`, says: 'The sheet.', params: ofTicket, reply: sheetView }),
  erase: act({
    method: 'POST',
    path: `${ticket}/erase`,
    says: 'Hands back and erases what was read.',
    params: ofTicket,
    body: eraseBody,
  }),
}

const course = {
  rest: act({
    method: 'POST',
    path: `${ticket}/rest`,
    says: 'Stops and gives both phones back for now.',
    params: ofTicket,
    body: restBody,
  }),
  resume: act({ method: 'POST', path: `${ticket}/resume`, says: 'Takes a resting ticket up again.', params: ofTicket, body: restBody }),
  handOver: act({ method: 'POST', path: `${ticket}/hand-over`, says: 'Hands it to a colleague.', params: ofTicket, body: handOverBody }),
  exchangeNew: act({
    method: 'POST',
    path: `${ticket}/exchange-new`,
    says: 'Exchanges a faulty new phone.',
    params: ofTicket,
    body: exchangeBody,
  }),
  note: act({ method: 'POST', path: `${ticket}/notes`, says: 'Says something a colleague should know.', params: ofTicket, body: noteBody }),
  told: route({ method: 'POST', path: `${ticket}/told`, says: 'A text for the customer was copied.', params: ofTicket, body: toldBody }),
  course: route({
    method: 'GET',
    path: `${ticket}/course`,
    says: 'Who did what, and what the ticket did by itself; after erasing without words.',
    params: ofTicket,
    reply: courseView,
  }),
  callOff: act({ method: 'POST', path: `${ticket}/call-off`, says: 'Calls it off.', params: ofTicket, body: callOffBody }),
}

const items = {
  entries: route({
    method: 'POST',
    path: `${ticket}/entries`,
    says: 'The items a count opens to, a page at a time.',
    params: ofTicket,
    body: searchBody,
    reply: entryPage,
  }),
  countEntries: route({
    method: 'POST',
    path: `${ticket}/entries-count`,
    says: 'How many items a search finds.',
    params: ofTicket,
    body: searchBody,
    reply: z.object({ total: n }),
  }),
  groups: route({
    method: 'POST',
    path: `${ticket}/groups`,
    says: 'A kind by conversation, calendar, month or year.',
    params: ofTicket,
    body: groupsBody,
    reply: groupPage,
  }),
  months: route({
    method: 'POST',
    path: `${ticket}/months`,
    says: 'A kind by month on both phones.',
    params: ofTicket,
    body: monthsBody,
    reply: monthsView,
  }),
  item: route({
    method: 'POST',
    path: `${ticket}/item`,
    says: 'One item with its fields, while showing is allowed.',
    params: ofTicket,
    body: itemBody,
    reply: itemView,
  }),
  joinings: route({
    method: 'POST',
    path: `${ticket}/joinings`,
    says: 'People on both phones, a page at a time.',
    params: ofTicket,
    body: joiningsBody,
    reply: joiningPage,
  }),
  joining: route({
    method: 'POST',
    path: `${ticket}/joining`,
    says: 'One person of both phones, field by field.',
    params: ofTicket,
    body: joiningBody,
    reply: joiningSides,
  }),
  thumbnail: route({
    method: 'POST',
    path: `${ticket}/thumbnail`,
    says: 'A small picture of one photo, while showing is allowed; empty where there is none.',
    params: ofTicket,
    body: thumbnailBody,
    sends: 'bytes',
  }),
  file: route({
    method: 'GET',
    path: `${ticket}/files/{kind}/{format}`,
    says: 'What the old phone holds as a file of an open format, while showing is allowed.',
    params: ofKind.extend({ format: z.string().regex(/^[a-z0-9.-]{1,20}$/) }),
    sends: 'bytes',
  }),
  takeHome: route({
    method: 'GET',
    path: `${ticket}/take-home`,
    says: 'What is taken home as files: the archive as it was proved; any part of it (RFC 9110, 14).',
    params: ofTicket,
    sends: 'bytes',
  }),
  lockTakeHome: act({
    method: 'POST',
    path: `${ticket}/take-home/password`,
    says: 'Locks what is taken home with a password, or with none; it is made anew and read back.',
    params: ofTicket,
    body: lockHomeBody,
  }),
  notTaken: route({
    method: 'GET',
    path: `${ticket}/not-taken`,
    says: 'Of the files that were brought, those that were not taken: size and why, names while showing is allowed.',
    params: ofTicket,
    reply: notTakenView,
  }),
  show: act({ method: 'POST', path: `${ticket}/show`, says: 'Shows names for ten minutes.', params: ofTicket, body: showBody }),
  hide: act({ method: 'DELETE', path: `${ticket}/show`, says: 'Hides names again.', params: ofTicket }),
}

const apps = {
  apps: route({
    method: 'GET',
    path: `${ticket}/apps`,
    says: 'The apps and what becomes of each.',
    params: ofTicket,
    reply: appsView,
  }),
  candidates: route({
    method: 'POST',
    path: `${ticket}/apps/candidates`,
    says: 'What may stand in for an app, while showing is allowed.',
    params: ofTicket,
    body: appBody,
    reply: candidatesView,
  }),
  chooseCounterpart: act({
    method: 'POST',
    path: `${ticket}/apps/counterpart`,
    says: 'Chooses what stands in for an app.',
    params: ofTicket,
    body: counterpartBody,
  }),
  markMoved: act({
    method: 'POST',
    path: `${ticket}/apps/moved`,
    says: 'A bound app was moved by hand.',
    params: ofTicket,
    body: movedBody,
  }),
  installList: route({
    method: 'GET',
    path: `${ticket}/apps/install-list`,
    says: 'The customer’s list of what to install.',
    params: ofTicket,
    reply: installListView,
  }),
}

const lists = {
  installPage: route({
    method: 'GET',
    path: '/api/lists/{code}',
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
    method: 'GET',
    path: '/api/practice/{path*}',
    says: 'What the hand on the practice phones says.',
    needs: 'practice',
    params: ofHand,
    query: ofStation.catchall(z.string().max(200)),
    reply: z.unknown(),
  }),
  moveHand: route({
    method: 'POST',
    path: '/api/practice/{path*}',
    says: 'Moves the hand on the practice phones.',
    needs: 'practice',
    params: ofHand,
    query: ofStation,
    body: z.record(z.string().max(60), z.unknown()),
    reply: z.unknown(),
  }),
  takeHandAway: route({
    method: 'DELETE',
    path: '/api/practice/{path*}',
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
