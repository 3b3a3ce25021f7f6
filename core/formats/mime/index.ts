export { readMime, textOfPart, type MimeMessage, type MimePart } from './read.ts'
export { headerOf, readEncodedWords, readHeaders, readParameters, type MimeHeader } from './header.ts'
export { writeMime, type MimePiece } from './write.ts'
