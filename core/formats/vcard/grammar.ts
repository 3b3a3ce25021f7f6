/**
 * The grammar as a table: what each property's value is, and how it is cut.
 * vCard 2.1; RFC 2426 (3.0); RFC 6350 (4.0).
 */
export type VcardVersion = '2.1' | '3.0' | '4.0'

export interface PropertyGrammar {
  /** text: one value; parts: cut at `;`; list: cut at `,`; binary: inline bytes or an address */
  readonly type: 'text' | 'parts' | 'list' | 'uri' | 'date' | 'binary'
  /** How many parts the standard names (for `parts`). */
  readonly parts?: number
  /** Section of RFC 6350, or of RFC 2426 where 4.0 dropped it. */
  readonly section: string
}

export const properties: Readonly<Record<string, PropertyGrammar>> = {
  FN: { type: 'text', section: '6.2.1' },
  N: { type: 'parts', parts: 5, section: '6.2.2' },
  NICKNAME: { type: 'list', section: '6.2.3' },
  PHOTO: { type: 'binary', section: '6.2.4' },
  BDAY: { type: 'date', section: '6.2.5' },
  ANNIVERSARY: { type: 'date', section: '6.2.6' },
  ADR: { type: 'parts', parts: 7, section: '6.3.1' },
  TEL: { type: 'text', section: '6.4.1' },
  EMAIL: { type: 'text', section: '6.4.2' },
  IMPP: { type: 'uri', section: '6.4.3' },
  TITLE: { type: 'text', section: '6.6.1' },
  ROLE: { type: 'text', section: '6.6.2' },
  LOGO: { type: 'binary', section: '6.6.3' },
  ORG: { type: 'parts', parts: 2, section: '6.6.4' },
  RELATED: { type: 'text', section: '6.6.6' },
  CATEGORIES: { type: 'list', section: '6.7.1' },
  NOTE: { type: 'text', section: '6.7.2' },
  SOUND: { type: 'binary', section: '6.7.5' },
  UID: { type: 'text', section: '6.7.6' },
  URL: { type: 'uri', section: '6.7.8' },
  KEY: { type: 'binary', section: '6.8.1' },
}

/** Parameter values that stand alone in vCard 2.1 and say how a value is encoded. */
export const bareEncodings: ReadonlySet<string> = new Set(['QUOTED-PRINTABLE', 'BASE64', '8BIT', '7BIT', 'B'])

/** Caps that keep memory flat whatever a file holds; in characters, one for each byte at most. */
export const caps = { line: 24_000_000, card: 32_000_000, params: 64 } as const
