import type { ReadTools } from '../kind.ts'
import type { Message } from './model.ts'

/** Raised whenever the same message would give other bytes. */
export const messageCanonicalVersion = 1

/**
 * What a message says, as facts that must be found again. Read or unread is no content: it changes when the
 * customer looks, and a look must not make a message lost. Milliseconds are not compared: many phones keep seconds.
 */
export function messageAtoms(message: Message, tools: Pick<ReadTools, 'number'>): string[] {
  const { direction, state, service, atMs, line, subject, group, text, reactionTo, attachments } = message
  const atoms = [
    `message\u001f${direction}\u001f${state}\u001f${service}\u001f${Math.floor(atMs / 1000)}\u001f${line || 1}\u001f${senderOf(message, tools)}\u001f${othersOf(message, tools)}`,
  ]
  if (subject) atoms.push(`subject\u001f${normal(subject)}`)
  if (group) atoms.push(`group\u001f${normal(group)}`)
  const said = normal(text)
  if (said) atoms.push(`text\u001f${said}`)
  if (reactionTo !== undefined) atoms.push(`reaction\u001f${normal(reactionTo)}`)
  // equal ones count each: the place among equals belongs to the fact
  const seen = new Map<string, number>()
  for (const { digest } of attachments) {
    const n = (seen.get(digest) ?? 0) + 1
    seen.set(digest, n)
    atoms.push(`attachment\u001f${digest}\u001f${n}`)
  }
  return atoms.length > 1 ? atoms.sort() : atoms
}

function senderOf({ from }: Message, tools: Pick<ReadTools, 'number'>): string {
  return from === '' ? '' : partyKey(from, tools)
}

function othersOf({ to }: Message, tools: Pick<ReadTools, 'number'>): string {
  if (to.length === 1) return partyKey(to[0]!, tools)
  return [...new Set(to.map((party) => partyKey(party, tools)))].sort().join(',')
}

/** Whoever it is by one spelling: a number in E.164, a mail address or a sender's word in lower case. */
export function partyKey(party: string, { number }: Pick<ReadTools, 'number'>): string {
  return /[A-Za-z@]/.test(party) ? party.trim().toLowerCase() : number(party)
}

/** All it is with, over every spelling: messages of one conversation have the same. */
export function conversationKey(message: Message, tools: Pick<ReadTools, 'number'>): string {
  const { from, to } = message
  if (to.length === 0) return from === '' ? 'nobody' : partyKey(from, tools)
  if (to.length === 1 && from === '') return partyKey(to[0]!, tools)
  return [...new Set([...(from === '' ? [] : [from]), ...to].map((party) => partyKey(party, tools)))].sort().join(',')
}

const plain = /^[\x20-\x7e]*$/

function normal(text: string): string {
  if (plain.test(text)) return text.trim()
  return text
    .normalize('NFC')
    .replace(/\r\n|\r/g, '\n')
    .replace(/[\u001e\u001f]/g, ' ')
    .trim()
}
