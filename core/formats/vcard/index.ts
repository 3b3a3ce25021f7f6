export { createVcardReader, readVcards } from './read.ts'
export { writeVcard, type PlainProperty } from './write.ts'
export { splitValue, unescapeValue } from './value.ts'
export type { Property, ReadCard, Vcard, VcardIssue } from './issue.ts'
