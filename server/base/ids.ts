declare const of: unique symbol

/** A number of the database's that can't be taken for one of another table. */
export type Id<What extends string, Raw = number> = Raw & { readonly [of]: What }

export type TicketId = Id<'ticket'>
export type ReadingId = Id<'reading'>
export type RunId = Id<'run'>
export type StaffId = Id<'staff'>
/** What sealed contents belong to, and the name of the file its key is in. */
export type HoldingId = Id<'holding', string>
/** A copy of a phone in a locker. */
export type CopyId = Id<'copy'>
/** What copies of one phone share. */
export type LockerId = Id<'locker'>
