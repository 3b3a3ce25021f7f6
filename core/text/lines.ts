/** A text to the end of its first line. */
export const firstLine = (text: string): string => /^[^\r\n]*/.exec(text)![0]
