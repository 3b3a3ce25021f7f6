/** What a phone and a cable as most are take, until this ticket’s own are measured; items and bytes a second. */
const usual = {
  carrying: { items: 900, bytes: 15_000_000, eachS: 0.8 },
  reading: { items: 2000, bytes: 30_000_000, eachS: 0.4 },
} as const
type Work = keyof typeof usual

/** What a part of the line has to do with one kind. */
export interface Amount {
  /** Items; of a media kind, bytes. */
  readonly n: number
  readonly isMedia: boolean
  /** Items a second, where the kind is slower than most. */
  readonly perSecond?: Readonly<Partial<Record<Work, number>>> | undefined
  /** A phone that sorts in what it took is waited for so long before it is read. */
  readonly settleS?: number
}

/** How long so much takes as a rule, in seconds: before the first item, and all of it. The rate itself is measured. */
export function usualSeconds(
  work: Work,
  { n, isMedia, perSecond, settleS = 0 }: Amount,
): { readonly beforeS: number; readonly wholeS: number } {
  const beforeS = usual[work].eachS + settleS
  return { beforeS, wholeS: beforeS + n / (isMedia ? usual[work].bytes : (perSecond?.[work] ?? usual[work].items)) }
}

export interface Measured {
  /** Usual seconds of what was done since measuring began, and of what is left of the whole part. */
  readonly doneS: number
  readonly leftS: number
  /** What that took, in seconds. */
  readonly elapsedS: number
}

/** The usual rate counts as so many seconds of measuring. */
const priorS = 2
/** Before so long nothing is known of this ticket’s own rate. */
const leastS = 1

/**
 * How long the whole part still takes, as a range that narrows while the rate settles; undefined while nothing was
 * measured, and when nothing is left. Seconds.
 */
export function timeLeft({ doneS, leftS, elapsedS }: Measured): { readonly lowS: number; readonly highS: number } | undefined {
  if (doneS <= 0 || leftS <= 0 || elapsedS < leastS) return undefined
  const left = (leftS * (elapsedS + priorS)) / (doneS + priorS)
  const spread = Math.max(0.15, Math.min(0.9, (0.9 * leftS) / (doneS + leftS) + 3 / elapsedS))
  return { lowS: Math.round(left * (1 - spread / 2)), highS: Math.ceil(left * (1 + spread)) }
}
