import { z } from 'zod'
import { stopCodes } from '#core/plan/straight.ts'
import { sidePlatforms } from '#core/phones/capability.ts'
import { isIntakeAnswer } from '#core/phones/intake.ts'
import {
  copyId,
  passphrase,
  cursor,
  eitherKey,
  instant,
  kindCode,
  newKey,
  offset,
  oldKey,
  side,
  sliceKey,
  wantedKind,
  when,
  placeKinds,
} from './fields.ts'
import { entryFilter, ledgerRow } from './ledger.ts'
import { installListView, stretch, mediaPlan } from './media.ts'
import { noteView, phoneReady } from './ready.ts'
import { stages } from './sets.ts'

export const stage = z.enum(stages)
export type Stage = z.infer<typeof stage>

export type Side = z.infer<typeof side>

/** An archive of open files, proved by reading it back. */
export const archiveView = z.object({
  sizeBytes: z.number(),
  files: z.number().int(),
  items: z.number().int(),
  /** What a customer's copy of it is told by. */
  mark: z.string(),
  hasPassword: z.boolean(),
  madeAt: z.string(),
  /** Until when it can be fetched; it is over where it is not there any more. */
  keepUntil: z.string(),
  isThere: z.boolean(),
  takenAt: z.string().nullable(),
})
export type ArchiveView = z.infer<typeof archiveView>

/** `POST /api/tickets/{number}/take-home/password`: at least so long that nobody tries them all; null for none. */
export const lockHomeBody = z.object({ password: z.string().min(8).max(200).nullable() })

export const phoneOnTicket = z.object({
  side,
  place: z.enum(placeKinds),
  maker: z.string(),
  model: z.string(),
  platform: z.enum(sidePlatforms),
  version: z.string(),
  serial: z.string().nullable(),
  port: z.number().int().nullable(),
  /** Code of the bench it lies at. */
  station: z.string().nullable(),
  isReady: z.boolean(),
  /** Codes of needs that must be met and are not. */
  unmet: z.array(z.string()),
  /** What to see to next, in the guide's words. */
  next: z.string().nullable(),
  /** Since when it is waited for; milliseconds since 1970. */
  waitsSinceMs: z.number().nullable(),
  batteryPercent: z.number().nullable(),
  freeBytes: z.number().nullable(),
  /** In a locker: which copy, as of when, until when it is kept, and of how many items it was short then. */
  copy: z
    .object({
      id: z.number().int(),
      asOf: z.string().nullable(),
      keepUntil: z.string(),
      shortThen: z.number().int(),
      isDestroyed: z.boolean(),
    })
    .nullable(),
  /** What is taken home as files: the archive as it stands, once it was made and read back. */
  archive: archiveView.nullable(),
})
export type PhoneOnTicket = z.infer<typeof phoneOnTicket>

export const phoneChoice = z.object({
  place: z.enum(placeKinds),
  maker: z.string().min(1).max(40),
  model: z.string().min(1).max(60),
  platform: z.enum(sidePlatforms),
  version: z.string().max(20),
  serial: z.string().min(1).max(64).nullable(),
  /** A file's upload, for `file`. */
  upload: z.string().uuid().optional(),
  /** For `locker` as the old side: which copy. */
  copy: copyId.optional(),
  /** For a copy that is closed by its owner: what opens it. */
  passphrase: passphrase.optional(),
  /** For `folder`: what the archive is locked with; none where nothing is said. */
  password: z.string().min(8).max(200).optional(),
  /** For `locker` as the new side: until when the copy is kept, the day included. */
  keepUntil: z.iso.date().optional(),
})
const onBench = phoneChoice.refine(({ place }) => place === 'bench', { message: 'files and lockers are booked in' })

export const bookInBody = z.object({
  customer: z.object({
    name: z.string().trim().min(1, 'name').max(120),
    phone: z.string().trim().max(40).default(''),
    note: z.string().trim().max(500).default(''),
  }),
  old: phoneChoice.refine(({ place, copy }) => place !== 'nothing' && place !== 'folder' && (place !== 'locker' || copy !== undefined), {
    message: 'which copy',
  }),
  new: phoneChoice
    .refine(({ place }) => place === 'bench' || place === 'locker' || place === 'folder', { message: 'a file takes nothing' })
    .refine(({ place, keepUntil }) => place !== 'locker' || keepUntil !== undefined, { message: 'until when' }),
  /** Kinds the customer wants; those this version does not carry are noted and done by hand. */
  kinds: z.array(wantedKind).min(1).max(40),
  /** Answers at the counter, by question. */
  intake: z
    .record(z.string().max(40), z.string().max(40))
    .default({})
    .superRefine((answers, context) => {
      for (const [code, answer] of Object.entries(answers))
        if (!isIntakeAnswer(code, answer)) context.addIssue({ code: 'custom', path: [code], message: 'no such answer' })
    }),
  /** ISO 8601 instant. */
  promisedAt: instant,
  waitsInShop: z.boolean().default(true),
})
export type BookIn = z.infer<typeof bookInBody>

const customerBody = bookInBody.shape.customer
/** `PUT /api/tickets/{number}`: what is changed of the booking; what is not given stays. Phones while nothing is written. */
export const editBody = z
  .object({
    customer: customerBody,
    promisedAt: instant,
    waitsInShop: z.boolean(),
    old: onBench,
    new: onBench,
  })
  .partial()
  .refine((body) => Object.values(body).some((value) => value !== undefined), { message: 'nothing to change' })
/** `GET /api/tickets/{number}/booking`: what was booked, in full; null for what is gone after erasing. */
export const bookingView = z.object({
  customer: z.object({ name: z.string(), phone: z.string(), note: z.string() }).nullable(),
  promisedAt: z.string(),
  waitsInShop: z.boolean(),
  bookedBy: z.string(),
  bookedAt: z.string(),
  wanted: z.array(z.string()),
  intake: z.record(z.string(), z.string()),
  phones: z.array(
    z.object({
      side,
      place: z.enum(placeKinds),
      maker: z.string(),
      model: z.string(),
      version: z.string(),
      serial: z.string().nullable(),
    }),
  ),
  /** Nothing is written yet and nothing runs: the phones can be others. */
  canChangePhones: z.boolean(),
})
export type BookingView = z.infer<typeof bookingView>

/** `POST /api/tickets/{number}/straight`: runs by itself from ready phones to the check. `agree`: with what it stopped for, too. */
export const straightBody = z.object({ on: z.boolean(), agree: z.boolean().default(false) })
export const straightView = z.object({
  since: z.string(),
  by: z.string(),
  /** What somebody must decide before it goes on. */
  stop: z
    .object({
      code: z.enum(stopCodes),
      of: z.array(z.object({ kind: z.string(), code: z.string(), items: z.number().int() })),
    })
    .nullable(),
})

/** `POST /api/tickets/{number}/kinds`: what is carried, too, and what is not any more. */
export const kindsBody = z.object({
  add: z.array(wantedKind).max(40).default([]),
  remove: z.array(wantedKind).max(40).default([]),
})

export const runView = z.object({
  id: z.string(),
  type: z.enum(['count-in', 'carry', 'check-off', 'take-away']),
  /** held: paused by hand. */
  state: z.enum(['waiting', 'running', 'paused', 'held', 'done', 'stopped']),
  /** Error code while paused. */
  reason: z.string().nullable(),
  side: side.nullable(),
  done: z.number().int(),
  total: z.number().int(),
  /** Items, or bytes of media. */
  unit: z.enum(['items', 'bytes']),
  /** The kind it works on now. */
  kind: z.string().nullable(),
  /** What it does now: reading, carrying, settling, pairing… */
  step: z.string(),
  startedAt: z.string(),
  endedAt: z.string().nullable(),
  leftLowS: z.number().nullable(),
  leftHighS: z.number().nullable(),
  perSecond: z.number().nullable(),
})
export type RunView = z.infer<typeof runView>

export const readingView = z.object({
  side,
  kind: z.string(),
  purpose: z.enum(['first', 'recount', 'last', 'probe']),
  state: z.enum(['open', 'whole', 'torn', 'superseded']),
  got: z.number().int(),
  counted: z.number().int().nullable(),
  unreadable: z.number().int(),
})

export type ReadingView = z.infer<typeof readingView>

export const forecastView = z.object({
  kind: z.string(),
  mode: z.literal('add'),
  choice: z.enum(['all', 'none', 'some']),
  counts: z.object({
    carried: z.number().int(),
    changed: z.number().int(),
    changedWithLoss: z.number().int(),
    /** Joined into records the new phone has. */
    merged: z.number().int(),
    alreadyThere: z.number().int(),
    notChosen: z.number().int(),
    cannotCross: z.number().int(),
    unreadable: z.number().int(),
    /** Further records the new phone makes of single items. */
    parts: z.number().int(),
    expected: z.number().int(),
  }),
  changes: z.array(z.object({ code: z.string(), loss: z.boolean(), items: z.number().int() })),
  rules: z.array(z.object({ code: z.string(), fate: z.string(), items: z.number().int() })),
  /** People on both phones: all, to be joined, joined. */
  onBoth: z.object({ all: z.number().int(), toJoin: z.number().int(), joined: z.number().int() }),
  /** Must be sent back with Carry over: what was seen is what is carried. */
  stamp: z.string(),
})
export type ForecastView = z.infer<typeof forecastView>

export const ticketView = z.object({
  number: z.string(),
  /**
   * The changes that are in it: all numbered below `below`, but for those of `without`, which had not ended then. An
   * event of one that is in it needs no further look.
   */
  holds: z.object({ below: z.number().int(), without: z.array(z.number().int()) }),
  /** Of two answers the one with the larger is the later. */
  moment: z.number().int(),
  /** First name and initial, or null when erased. */
  customer: z.string().nullable(),
  stage,
  promisedAt: z.string(),
  waitsInShop: z.boolean(),
  bookedBy: z.string(),
  old: phoneOnTicket,
  new: phoneOnTicket,
  kinds: z.array(z.string()),
  /** What could be carried, too: it crosses between these phones. */
  canAdd: z.array(z.string()),
  /** Kinds the old phone holds and nobody asked for, by its own count; null where it was not looked at, because it would ask its owner. */
  beside: z.array(z.object({ kind: z.string(), items: z.number().int().nullable() })),
  /** Of the kinds, those of which something is written: they can't be let go any more. */
  frozenKinds: z.array(z.string()),
  /** Wanted, and done by hand: this version does not carry them. */
  byHand: z.array(z.string()),
  /** Wanted and carried by this version, but not between these phones: why, by kind. */
  cannot: z.record(z.string(), z.string()),
  ready: z.object({ old: phoneReady, new: phoneReady }),
  heldBy: z.string(),
  /** A copy is looked into, and nothing is carried. */
  isLook: z.boolean(),
  restingAt: z.string().nullable(),
  notes: z.array(noteView),
  intake: z.record(z.string(), z.string()),
  areRolesFrozen: z.boolean(),
  needsExchangeAnswer: z.boolean(),
  ledger: z.array(ledgerRow),
  readings: z.array(readingView),
  run: runView.nullable(),
  lastRun: runView.nullable(),
  /** The visible stretches of the line, while carrying runs or waits. */
  stretches: z.array(stretch),
  /** Space and time of what waits, once both phones are read. */
  plan: mediaPlan.nullable(),
  firstKind: z.string().nullable(),
  /** Apps bound to the old phone, and how many of them are not moved by hand yet: they guard its wipe. */
  tied: z.object({ all: z.number().int(), open: z.number().int() }),
  forecasts: z.array(forecastView),
  /** Why items ended as they did, or what was changed on the way: how many items for each fate and reason. */
  reasons: z.array(z.object({ kind: z.string(), fate: z.string(), code: z.string(), items: z.number().int() })),
  mayHandOver: z.boolean(),
  /** When its sheet was last printed. */
  printedAt: z.string().nullable(),
  signedAt: z.string().nullable(),
  /** When the sheet signed last was made void, while none is signed in its place. */
  voidedAt: z.string().nullable(),
  signedBy: z.string().nullable(),
  /** Signed with what stands: some of it is open. */
  isSignedOpen: z.boolean(),
  calledOff: z.object({ at: z.string(), why: z.string().nullable() }).nullable(),
  /** It runs by itself from ready phones to the check. */
  straight: straightView.nullable(),
  /** The last note; null when there is none. */
  lastNote: z.string().nullable(),
  /** Left behind on the new phone, by kind: what still says what was written, and what reads otherwise. */
  leftBehind: z.array(z.object({ kind: z.string(), asWritten: z.number().int(), changed: z.number().int() })),
  handedBackAt: z.string().nullable(),
  erasedAt: z.string().nullable(),
  accepted: z.array(z.object({ kind: z.string(), by: z.string(), short: z.number(), over: z.number(), at: z.string() })),
  showingUntil: z.string().nullable(),
})
export type TicketView = z.infer<typeof ticketView>

export const ticketSummary = ticketView.pick({
  number: true,
  customer: true,
  stage: true,
  promisedAt: true,
  waitsInShop: true,
  old: true,
  new: true,
  ledger: true,
  run: true,
  handedBackAt: true,
  signedAt: true,
  erasedAt: true,
  restingAt: true,
  heldBy: true,
  isLook: true,
  calledOff: true,
  straight: true,
  lastNote: true,
})
export type TicketSummary = z.infer<typeof ticketSummary>

export const todayView = z.object({
  /** Of two answers, a ticket's among them, the one with the larger is the later. */
  moment: z.number().int(),
  tickets: z.array(ticketSummary),
  ports: z.array(
    z.object({
      port: z.number().int(),
      station: z.string(),
      phone: z.object({ maker: z.string(), model: z.string(), platform: z.string(), version: z.string(), serial: z.string() }).nullable(),
      ticket: z.string().nullable(),
      side: side.nullable(),
      /** unseen: it draws current and is not seen. */
      state: z.enum(['free', 'unseen', 'ready', 'waits', 'giving', 'taking']),
      /** What waits for a finger: the question on its screen, or the need to see to, in words; and since when. */
      touch: z.object({ say: z.string(), sinceMs: z.number() }).nullable(),
      /** A ticket handed back today that had this phone. */
      seenToday: z.string().nullable(),
      /** Tickets that wait for a phone of this model. */
      offers: z.array(z.object({ ticket: z.string(), side })),
      batteryPercent: z.number().nullable(),
      isCharging: z.boolean(),
      temperatureC: z.number().nullable(),
      freeBytes: z.number().nullable(),
      hasWorkArea: z.boolean(),
    }),
  ),
  /** Codes of benches that do not answer; their ports are told empty. */
  unseenStations: z.array(z.string()),
  /** A bench answers, or several. */
  isBenchSeen: z.boolean(),
  /** Copies in lockers that end within a week. */
  endingCopies: z.array(z.object({ id: z.number().int(), customer: z.string().nullable(), keepUntil: z.string() })),
})
export type TodayView = z.infer<typeof todayView>

export const chooseBody = z.object({
  choice: z.enum(['all', 'none', 'some']),
  mode: z.string().max(20).default('add'),
  /** For `some`: entries set or unset, by key. */
  set: z
    .array(z.object({ key: oldKey, isChosen: z.boolean() }))
    .max(5000)
    .default([]),
  /** For `some`: every item of a slice, by its shape, its storage or a reason. */
  slice: z
    .object({
      facet: z.string().max(40).default(''),
      storage: z.string().max(40).default(''),
      reason: z.string().max(60).default(''),
      group: sliceKey,
      when,
      isChosen: z.boolean(),
    })
    .nullable()
    .default(null),
})
export const carryBody = z.object({ stamps: z.record(z.string().max(40), z.string().max(200)), confirmRoles: z.boolean().default(false) })
export const acceptBody = z.object({ by: z.string().trim().min(1, 'name').max(120) })
export const showBody = z.object({ reason: z.enum(['sample-with-customer', 'check-difference', 'choose-items', 'customer-asks']) })
export const searchBody = z.object({
  kind: kindCode,
  filter: entryFilter.default('all'),
  facet: z.string().max(40).default(''),
  storage: z.string().max(40).default(''),
  /** Only items with this reason or change. */
  reason: z.string().max(60).default(''),
  group: sliceKey,
  when,
  text: z.string().max(200).default(''),
  after: cursor,
  limit: z.number().int().min(1).max(200).default(60),
})
/** Slices of a kind on one side: its conversations or calendars, or its months. */
export const groupsBody = z.object({
  kind: kindCode,
  side: side.default('old'),
  by: z.enum(['group', 'month', 'year']),
  /** Only slices of that name or number; while showing is allowed. */
  text: z.string().max(200).default(''),
  after: offset,
  limit: z.number().int().min(1).max(200).default(60),
})
/** `POST /api/tickets/{number}/joinings`: people on both phones, a page at a time. */
export const joiningsBody = z.object({
  kind: kindCode,
  after: cursor,
  limit: z.number().int().min(1).max(200).default(60),
})
/** One of them, field by field. */
export const joiningBody = z.object({ kind: kindCode, key: oldKey })
/** By a rule over all that is open, or one by one. */
export const decideBody = z.union([
  z.object({ rule: z.enum(['sure', 'all', 'none']) }),
  z.object({ keys: z.array(oldKey).min(1).max(500), decision: z.enum(['keep', 'join', 'carry']) }),
])
/** Joined records to be put back as they were; all of them without keys. */
export const undoBody = z.object({ keys: z.array(oldKey).min(1).max(500).optional() })

/** `withWhatStands`: signed though not all agrees; every difference and what still waits is named on the sheet as open. */
export const signBody = z.object({ by: z.string().trim().min(1, 'name').max(120), withWhatStands: z.boolean().default(false) })
/**
 * `POST /api/tickets/{number}/kinds/{kind}/take-away`: what this ticket left behind on the new phone. `changed` takes
 * away what reads otherwise than it was written, too; the ticket's number is typed for that.
 */
export const takeAwayBody = z.object({
  keys: z.array(newKey).min(1).max(500).optional(),
  changed: z.boolean().default(false),
  typed: z.string().max(40).default(''),
})
/** `POST /api/tickets/{number}/call-off`: with or without taking away what was written; the number is typed. */
export const callOffBody = z.object({
  why: z.string().trim().min(1, 'why').max(300),
  takeAway: z.boolean().default(false),
  typed: z.string().max(40).default(''),
})
/** `POST /api/tickets/{number}/kinds/{kind}/again`: what is put back among what waits. */
export const againBody = z.object({
  fates: z
    .array(z.enum(['lost', 'refused', 'unreadable', 'pushedOut', 'editedThere', 'undone']))
    .min(1)
    .max(6)
    .default(['lost']),
})
export const eraseBody = z.object({ typed: z.string().max(40) })
/** Says which phone is which; a side that is not named stays as it is. */
export const rolesBody = z
  .object({ oldSerial: z.string().min(1).max(64).optional(), newSerial: z.string().min(1).max(64).optional() })
  .refine(({ oldSerial, newSerial }) => oldSerial ?? newSerial, { path: ['oldSerial'] })
export const signInBody = z.object({ name: z.string().trim().min(1).max(60), pin: z.string().min(4).max(12) })
/** A browser that is signed in. */
export const sessionView = z.object({ id: z.number().int(), since: z.string(), lastUsed: z.string(), isThis: z.boolean() })
export type SessionView = z.infer<typeof sessionView>
/** One item of either side, by the key of its row. */
export const itemBody = z.object({ kind: kindCode, key: eitherKey, filter: entryFilter.default('all') })
export const itemView = z.object({
  title: z.string(),
  lines: z.array(z.object({ field: z.string(), text: z.string() })).readonly(),
  /** What was guessed or passed over when it was read. */
  issues: z.array(z.string()).readonly(),
})
export type ItemView = z.infer<typeof itemView>

/** A signed sheet that is void: the figures moved, or the new phone was exchanged. */
export const formerSheet = z.object({ at: z.string(), voidedAt: z.string(), digest: z.string() })

/** The printed sheet. */
export const sheetView = z.object({
  ticket: ticketView,
  shop: z.object({ name: z.string(), address: z.string(), zone: z.string(), words: z.string().default('') }),
  customer: z.object({ name: z.string(), phone: z.string() }).nullable(),
  /** The list of apps to be installed by hand. */
  install: installListView.nullable(),
  madeAt: z.string(),
  isErased: z.boolean(),
  /** It is what was signed. `digest`: the beginning of the SHA-256 of its bytes. `isVoid`: the figures moved since. */
  signed: z.object({ at: z.string(), by: z.string().nullable(), digest: z.string(), isVoid: z.boolean() }).nullable(),
  /** Sheets that were signed before, and are void since the figures moved; the last first. */
  former: z.array(formerSheet),
})
export type SheetView = z.infer<typeof sheetView>
