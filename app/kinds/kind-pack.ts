import type { Component } from 'vue'

/** What a screen calls a kind and what it has. */
export interface KindWords {
  /** “Messages” */
  readonly title: string
  /** “message”, “messages” */
  readonly one: string
  readonly many: string
  /** Shapes to look for while masked, by the names of its face; `''` is any. */
  readonly facets: Readonly<Record<string, string>>
  /** What an item is like, told while masked, by mark or figure: of one and of several; equal where it is not counted. */
  readonly shapes: Readonly<Record<string, readonly [string, string]>>
  /** What it is counted together by: a conversation, a calendar. */
  readonly group?: { readonly one: string; readonly many: string; readonly title: string; readonly nameless: string }
  /** Figures of the whole kind beside its count. */
  readonly sums?: Readonly<Record<string, string>>
  /** Open files it goes out as, by format. */
  readonly files?: Readonly<Record<string, string>>
  /** What a phone counts with it though nobody stored it: what that is called, and what it is. */
  readonly derived?: Readonly<Record<string, { readonly say: string; readonly meaning: string }>>
  /** Sentences of codes that no other kind has. */
  readonly reasons?: Readonly<Record<string, string>>
}

/** What the screens know of a kind. A kind is a folder that gives one of these, and a line in the registry. */
export interface KindPack {
  readonly code: string
  readonly icon: Component
  readonly words: KindWords
  /** Its gaps show best by month: a chart opens beside its name. */
  readonly byMonth?: boolean
  /** It can be chosen by span of time. */
  readonly bySpan?: boolean
  /** The reason that stands on items of which the new phone makes several records. */
  readonly furtherReason?: string
  /** Its items as tiles, where people would rather look than read. */
  readonly tiles?: Component
  /** A board of its own below its account. */
  readonly board?: Component
}
