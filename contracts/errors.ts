import { errorSentences } from '../app/words/errors.ts'

/** The HTTP status of each error a technician can meet. */
const statuses = {
  // the phone link
  LinkLost: 502,
  PhoneLocked: 409,
  TrustNeeded: 409,
  TrustRefused: 409,
  PermissionMissing: 409,
  DebuggingOff: 409,
  HelperMissing: 409,
  StorageFull: 409,
  BatteryLow: 409,
  TooHot: 409,
  KeyAway: 503,
  AtTwoStations: 409,
  AtOtherStation: 409,
  NotPlugged: 409,
  ConnectionTaken: 409,
  RevisionChanged: 409,
  FileChanged: 409,
  NoSuchRecord: 404,
  LinkProtocol: 502,
  FileUnreadable: 422,
  FileTooLarge: 413,
  UploadsFull: 507,
  CountNotMet: 409,
  ZipLocked: 422,
  ZipRefused: 422,
  CarryFirst: 409,
  NotPaused: 409,
  DoesNotFit: 409,
  StillSettling: 409,
  // the application
  BadRequest: 400,
  NotSignedIn: 401,
  WrongPin: 401,
  TooManyLists: 429,
  PinThrottled: 429,
  WrongOrigin: 403,
  WrongHost: 421,
  WrongContentType: 415,
  WrongMethod: 405,
  BodyTooLarge: 413,
  TookTooLong: 503,
  CrossSite: 403,
  NotFound: 404,
  TicketNotFound: 404,
  TicketErased: 410,
  StageNotReached: 409,
  OldNotRead: 409,
  NotCarried: 409,
  TicketCalledOff: 409,
  TicketSigned: 409,
  NothingLeftBehind: 409,
  NumberNotTyped: 409,
  KindUnknown: 404,
  KindFrozen: 409,
  LastKind: 409,
  ModeNotOffered: 409,
  PhonesNotReady: 409,
  NeedUnknown: 404,
  NeedNotTickable: 409,
  PutBackOpen: 409,
  MustNotTake: 409,
  TicketRests: 409,
  NotResting: 409,
  NobodyOfThatName: 404,
  SamePhoneAgain: 409,
  PortEmpty: 409,
  NameTaken: 409,
  LastStaff: 409,
  NotNew: 409,
  PhonesWritten: 409,
  RolesFrozen: 409,
  SamePhoneTwice: 409,
  PhoneOnOtherTicket: 409,
  PhoneBusy: 409,
  NewPhoneFuller: 409,
  ForecastNotSeen: 409,
  NotAgreed: 409,
  NothingToAccept: 409,
  ShowingNotAllowed: 403,
  RunNotFound: 404,
  SheetNotSigned: 409,
  DatabaseAway: 503,
  PracticeAway: 503,
  Internal: 500,
} as const satisfies Record<keyof typeof errorSentences, number>

export type ErrorCode = keyof typeof statuses

/**
 * One table of every error: HTTP status, and the sentence that says what to do (`app/words/errors.ts`). Code branches on
 * the code, never on the wording.
 */
export const errors = Object.fromEntries(
  Object.entries(statuses).map(([code, status]) => [code, { status, sentence: errorSentences[code as ErrorCode] }]),
) as { readonly [Code in ErrorCode]: { readonly status: number; readonly sentence: string } }

export function isErrorCode(text: unknown): text is ErrorCode {
  return typeof text === 'string' && Object.hasOwn(errors, text)
}
