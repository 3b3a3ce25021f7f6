/** What was wrong at a place of the input; a sentence is made of it elsewhere. */
export interface VcardIssue {
  readonly code:
    | 'stray-text'
    | 'no-end'
    | 'card-too-large'
    | 'line-too-long'
    | 'line-without-colon'
    | 'charset-guessed'
    | 'charset-unknown'
    | 'damaged-quoted-printable'
    | 'damaged-base64'
    | 'nested-card'
    | 'no-version'
    | 'empty-card'
    | 'bad-date'
  /** Property's name, never its value. */
  readonly property?: string
  /** Line of the input, from 1. */
  readonly line: number
  /** lossy: something could not be read; harmless: read, but not as written by the standard */
  readonly severity: 'lossy' | 'harmless'
}

export interface Property {
  readonly group?: string
  /** Upper case. */
  readonly name: string
  /** Names in upper case, values as written; bare parameters are under TYPE. */
  readonly params: Readonly<Record<string, readonly string[]>>
  /** Text after charset and transfer decoding, still with the separators' escapes. Empty for bytes. */
  readonly value: string
  /** Inline bytes of a base64 value. */
  readonly bytes?: Uint8Array
}

export interface Vcard {
  readonly version: '2.1' | '3.0' | '4.0' | undefined
  readonly properties: readonly Property[]
}

/** One card of the input, read or not; either way it is one counted item. */
export type ReadCard =
  | { readonly ok: true; readonly card: Vcard; readonly issues: readonly VcardIssue[] }
  | { readonly ok: false; readonly code: VcardIssue['code']; readonly issues: readonly VcardIssue[] }
