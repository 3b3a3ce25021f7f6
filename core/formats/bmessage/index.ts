export { readBmessage, lengthOf, type Bmessage, type BmessageResult } from './read.ts'
export { writeBmessage, type BmessageFacts } from './write.ts'
export { joinRecord, readListingEntry, writeListingEntry, type ListingEntry } from './listing.ts'
export { messageTypes, type MessageType } from './grammar.ts'
