import type { TicketView } from '#contracts/http/ticket.ts'

export type LetterCode = 'ready' | 'late' | 'needed'
export interface LetterOf {
  readonly ticket: Pick<TicketView, 'number' | 'old' | 'new' | 'promisedAt' | 'tied' | 'mayHandOver' | 'isSignedOpen'>
  readonly shop: { readonly name: string; readonly address: string }
  /** The promise as people say it: “16:30”, “Tue 10:00”. */
  readonly promised: string
  /** What is needed of the customer at the shop, in the guide’s words. */
  readonly need: string
}

/** What a text for the customer is about, as the technician picks it. */
export const letterNames: Readonly<Record<LetterCode, string>> = {
  ready: 'It is ready',
  late: 'It will be late',
  needed: 'We need you here',
}

/** A text to be copied and sent: what is needed, and nothing of what is on a phone. */
export function letterOf(code: LetterCode, { ticket, shop, promised, need }: LetterOf): string {
  const sign = `\n\n${[shop.name, shop.address].filter(Boolean).join(', ')}\nTicket ${ticket.number}`
  const pair = `your ${ticket.new.model}`
  if (code === 'ready')
    return (
      `Good news: ${pair} is ready to be collected.` +
      (ticket.mayHandOver
        ? ' We counted both phones afterwards, and the counts agree.'
        : ' A few things are open; we go through them with you at the counter.') +
      (ticket.tied.open > 0
        ? ` Please keep your ${ticket.old.model} as it is for now: ${ticket.tied.open === 1 ? 'one app has' : `${ticket.tied.open} apps have`} to be moved by you first.`
        : '') +
      ' Please bring this text or your receipt.' +
      sign
    )
  if (code === 'late')
    return (
      `We promised ${pair} for ${promised}, and it will take longer. Nothing is wrong with your data: both phones are safe with us, and the work goes on. ` +
      'We write again as soon as it is ready.' +
      sign
    )
  return (
    `We need you here for a moment, so that we can go on with ${pair}.` +
    (need ? ` What is needed: ${need.charAt(0).toLowerCase()}${need.slice(1)}.` : '') +
    ' Please don’t send us passcodes or passwords; you type them in yourself.' +
    sign
  )
}
