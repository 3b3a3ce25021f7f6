/**
 * One table of every error a technician can meet: HTTP status and the sentence that says what to do.
 * Code branches on the code, never on the wording.
 */
export const errors = {
  // the phone link
  LinkLost: { status: 502, sentence: 'The connection to the phone was lost. Check the cable and the port, then try again.' },
  PhoneLocked: { status: 409, sentence: 'The phone is locked. Unlock it and keep its screen on.' },
  TrustNeeded: { status: 409, sentence: 'The phone asks whether to trust this computer. Answer “trust” on its screen.' },
  TrustRefused: {
    status: 409,
    sentence: 'The trust question was refused on the phone. Pull the cable, plug it in again and answer “trust”.',
  },
  PermissionMissing: { status: 409, sentence: 'The phone does not allow this kind to be read or written. Allow it on the phone.' },
  DebuggingOff: { status: 409, sentence: 'USB debugging is off on the phone. Turn it on as Make ready says; the work goes on by itself.' },
  HelperMissing: { status: 409, sentence: 'Corvend’s helper is not on the phone. Press “Install” on its screen.' },
  StorageFull: { status: 409, sentence: 'The phone’s storage is full. Free some space on it, then go on.' },
  BatteryLow: { status: 409, sentence: 'The phone has less than 20% and does not charge. Charge it, then start.' },
  TooHot: { status: 409, sentence: 'The phone is too hot. Let it cool down; the work goes on by itself.' },
  KeyAway: {
    status: 503,
    sentence: 'The key of this ticket can’t be reached. See that the folder of keys is there, then try again; nothing is lost.',
  },
  AtTwoStations: { status: 409, sentence: 'The two phones are at two benches. Plug both in at one.' },
  AtOtherStation: { status: 409, sentence: 'The phone is at another bench than the other one. Plug both in at one.' },
  NotPlugged: { status: 409, sentence: 'The phone is not plugged in. Plug it into any port.' },
  ConnectionTaken: { status: 409, sentence: 'Another connection took the phone over. Try again in a moment.' },
  RevisionChanged: { status: 409, sentence: 'The record changed on the phone in the meantime.' },
  FileChanged: {
    status: 409,
    sentence: 'A file on the old phone is no longer what was read. Corvend looks at the old phone again by itself.',
  },
  NoSuchRecord: { status: 404, sentence: 'The phone has no such record any more.' },
  LinkProtocol: {
    status: 502,
    sentence: 'The phone gave an answer Corvend does not understand. Plug it in again; if it stays, note the phone’s model and version.',
  },
  FileUnreadable: {
    status: 422,
    sentence: 'The file holds no vCard and no calendar. Export the contacts again as .vcf, the calendar as .ics.',
  },
  FileTooLarge: { status: 413, sentence: 'The file is larger than 500 MB (a calendar: 64 MB). Export it in parts.' },
  UploadsFull: {
    status: 507,
    sentence: 'Files that wait to be booked fill 2 GB. Book one, or wait: what nobody books goes after an hour.',
  },
  CountNotMet: {
    status: 409,
    sentence: 'What the phone listed does not meet its own count. It may still be sorting; Corvend counts again by itself.',
  },
  ZipLocked: { status: 422, sentence: 'This ZIP is locked with a password. Unpack it and drop the files one by one.' },
  ZipRefused: {
    status: 422,
    sentence:
      'This ZIP can’t be read: it is damaged, locked with a password, or grows beyond all bounds. Unpack it and drop the files one by one.',
  },
  CarryFirst: {
    status: 409,
    sentence: 'Something still waits to be carried. Carry it over or leave it behind first, then undo the joining.',
  },
  NotPaused: { status: 409, sentence: 'Nothing is paused here.' },
  DoesNotFit: { status: 409, sentence: 'What is chosen has no room on the new phone. Choose less, or free some space on it.' },
  StillSettling: { status: 409, sentence: 'The phone is still sorting in what it took. Corvend counts again by itself.' },
  // the application
  BadRequest: { status: 400, sentence: 'Something in the form is missing or not possible. See the named fields.' },
  NotSignedIn: { status: 401, sentence: 'Sign in with your name and PIN.' },
  WrongPin: { status: 401, sentence: 'Name and PIN do not go together. Try again.' },
  TooManyLists: { status: 429, sentence: 'Too many lists were asked for from here. Wait a minute, then try again.' },
  PinThrottled: { status: 429, sentence: 'Too many wrong PINs. Wait a minute, then try again.' },
  WrongOrigin: { status: 403, sentence: 'This request came from another site and was refused.' },
  WrongHost: { status: 421, sentence: 'Corvend does not answer under this address.' },
  WrongContentType: { status: 415, sentence: 'This request was not sent as JSON.' },
  WrongMethod: { status: 405, sentence: 'That can’t be done at this address.' },
  BodyTooLarge: { status: 413, sentence: 'This is more than Corvend takes at once. Send less, or in parts.' },
  TookTooLong: { status: 503, sentence: 'Corvend has too much to do just now. Nothing was changed; try again in a moment.' },
  CrossSite: { status: 403, sentence: 'Another site tried to use Corvend and was refused. Open Corvend itself, then try again.' },
  NotFound: { status: 404, sentence: 'There is no such thing here.' },
  TicketNotFound: { status: 404, sentence: 'There is no ticket with this number.' },
  TicketErased: { status: 410, sentence: 'This ticket’s data was erased; its counts remain.' },
  StageNotReached: { status: 409, sentence: 'Both phones must be counted in first.' },
  OldNotRead: { status: 409, sentence: 'The old phone must be counted in first.' },
  NotCarried: { status: 409, sentence: 'Carry over first: then both phones are counted afresh and compared.' },
  TicketCalledOff: { status: 409, sentence: 'This ticket was called off. Nothing more is carried; its data can be erased.' },
  TicketSigned: { status: 409, sentence: 'The sheet is signed. What it says is what was agreed.' },
  NothingLeftBehind: { status: 409, sentence: 'Nothing of this ticket is left behind on the new phone.' },
  NumberNotTyped: { status: 409, sentence: 'Type the ticket’s number to confirm this.' },
  KindUnknown: { status: 404, sentence: 'This ticket does not carry that kind.' },
  KindFrozen: { status: 409, sentence: 'Some of that kind is written on the new phone already. Leave out what you don’t want at Choose.' },
  LastKind: { status: 409, sentence: 'A ticket carries at least one kind. Call the ticket off instead.' },
  ModeNotOffered: { status: 409, sentence: 'Only adding is offered. Replacing, undoing and joining are not available yet.' },
  PhonesNotReady: {
    status: 409,
    sentence: 'A phone is not ready yet. Make ready says what it still needs, or lets you waive it with a reason.',
  },
  NeedUnknown: { status: 404, sentence: 'This phone does not need that for this ticket.' },
  NeedNotTickable: { status: 409, sentence: 'The phone reports this itself; it can be waived with a reason, but not ticked.' },
  PutBackOpen: { status: 409, sentence: 'Settings changed for the move are not put back yet. Put them back, or waive each by name.' },
  MustNotTake: { status: 409, sentence: 'This job must not be taken as the answers stand. Tell the customer why, as Book in says.' },
  TicketRests: { status: 409, sentence: 'This ticket rests; the phones were given back. Take it up again first.' },
  NotResting: { status: 409, sentence: 'This ticket does not rest.' },
  NobodyOfThatName: { status: 404, sentence: 'Nobody of that name works here.' },
  SamePhoneAgain: { status: 409, sentence: 'That is the new phone this ticket has already.' },
  PortEmpty: { status: 409, sentence: 'No phone is seen on that port.' },
  NameTaken: { status: 409, sentence: 'Somebody of that name works here, or did. Choose another name.' },
  LastStaff: { status: 409, sentence: 'Nobody could sign in any more. Add somebody else first.' },
  NotNew: { status: 409, sentence: 'This shop is set up already. Sign in.' },
  PhonesWritten: {
    status: 409,
    sentence: 'Something is written on the new phone already: the phones stay as they are booked. A faulty new phone can be exchanged.',
  },
  RolesFrozen: { status: 409, sentence: 'Writing has begun: which phone is old and which is new can no longer be changed.' },
  SamePhoneTwice: { status: 409, sentence: 'The old and the new phone are the same phone. Choose another port for one of them.' },
  PhoneOnOtherTicket: { status: 409, sentence: 'This phone belongs to another open ticket.' },
  PhoneBusy: { status: 409, sentence: 'Another run is working with this phone. Wait until it ends.' },
  NewPhoneFuller: {
    status: 409,
    sentence: 'The phone named new holds at least ten times what the old one holds. Confirm that they are not mixed up.',
  },
  ForecastNotSeen: { status: 409, sentence: 'The forecast has changed since it was seen. Look at it again.' },
  NotAgreed: { status: 409, sentence: 'The counts do not agree yet, and the customer has not accepted what is short.' },
  NothingToAccept: { status: 409, sentence: 'There is no difference to accept.' },
  ShowingNotAllowed: { status: 403, sentence: 'Names are hidden. Say why you need to see them first.' },
  RunNotFound: { status: 404, sentence: 'There is no such run.' },
  SheetNotSigned: { status: 409, sentence: 'The sheet is not signed yet. Sign it before the data is erased.' },
  DatabaseAway: { status: 503, sentence: 'The database does not answer. Corvend goes on by itself when it is back; nothing is lost.' },
  StandinAway: { status: 503, sentence: 'The practice phones do not answer. Start them again with ./corvend demo.' },
  Internal: { status: 500, sentence: 'Something went wrong in Corvend. Nothing was lost; try again.' },
} as const satisfies Record<string, { status: number; sentence: string }>

export type ErrorCode = keyof typeof errors

export function isErrorCode(text: unknown): text is ErrorCode {
  return typeof text === 'string' && Object.hasOwn(errors, text)
}
