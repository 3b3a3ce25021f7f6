/** What the page says that a customer opens at home. */
export const pageWords = {
  title: 'What was on the phone',
  lead: (model: string, day: string) =>
    `From the ${model}, as it was on ${day}. Everything here is in the files beside this page; it works without the internet.`,
  counts: 'What is here',
  items: (n: string, file: string) => `${n} in the file ${file}`,
  nobody: 'Unknown',
  withoutDate: 'Without a date',
  messages: (n: number) => (n === 1 ? '1 message' : `${n.toLocaleString('en-GB')} messages`),
  listed: (n: number) => (n === 1 ? '1 item' : `${n.toLocaleString('en-GB')} items`),
  how: 'To bring it back: give this folder, or the ZIP it came in, to a shop. To see whether the ZIP is still whole, the shop can check it.',
} as const
