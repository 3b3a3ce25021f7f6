import { readAttributes, writeAttributes } from '../../text/attributes.ts'
import { utf8Bytes, utf8Text } from '../../text/bytes.ts'
import { listingAttributes, type ListingAttribute } from './grammar.ts'

export type ListingEntry = Partial<Record<ListingAttribute, string>>

const known: ReadonlySet<string> = new Set(listingAttributes)
/**
 * Cuts a record of the link into its entry of the message listing (message access profile 1.4, section 3.1.6: one
 * `msg` element) and the message object behind it. Undefined when there is no entry.
 */
export function readListingEntry(bytes: Uint8Array): { entry: ListingEntry; object: Uint8Array } | undefined {
  // the entry is one line; what stands behind it is bytes
  const end = bytes.indexOf(10)
  const line = end < 0 ? undefined : utf8Text(bytes.subarray(0, end))
  if (!line?.startsWith('<msg ')) return undefined
  return { entry: readAttributes<ListingAttribute>(line, 4, known), object: bytes.subarray(end + 1) }
}

/** The entry as one line, in front of a message object. */
export function writeListingEntry(entry: ListingEntry): string {
  return `<msg ${writeAttributes(entry)}/>\r\n`
}

/** Bytes of a whole record: entry and object. */
export function joinRecord(entry: ListingEntry, object: string): Uint8Array {
  return utf8Bytes(writeListingEntry(entry) + object)
}
