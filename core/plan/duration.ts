/** What was measured or is known before anything is carried. */
export interface DurationInput {
  /** Light items to write. */
  readonly items: number
  readonly bytes: number
  /** Files those bytes are in. */
  readonly files: number
  /** Bytes a second of the old phone, as it was read; undefined when it was not measured. */
  readonly measuredBytesPerSecond: number | undefined
  /** What the slower of the two cables carries. */
  readonly cableBytesPerSecond: number
  readonly conversions: number
  readonly conversionMs: number
  /** Of the warmer phone, in °C. */
  readonly temperatureC: number
}

export interface Duration {
  readonly lowS: number
  readonly highS: number
  /** Rests for heat that are reckoned in, in seconds. */
  readonly restsS: number
}

const warmC = 36
/** A phone that takes so much without a pause gets warm. */
const warmsAfterBytes = 15_000_000_000

/**
 * How long carrying and checking will take, as a range: what is written is read once more at Check off. Rests for heat
 * are added when much is carried or a phone is warm already.
 */
export function durationOf({
  items,
  bytes,
  files,
  measuredBytesPerSecond,
  cableBytesPerSecond,
  conversions,
  conversionMs,
  temperatureC,
}: DurationInput): Duration {
  const most = Math.max(1, cableBytesPerSecond)
  const rate = Math.min(most, measuredBytesPerSecond ?? most)
  // over and back, and a moment for each file on either phone
  const mediaS = (bytes / rate) * 2 + files * 0.01
  const lightS = items / 400
  const convertS = (conversions * conversionMs) / 1000
  const restsS = Math.round(Math.floor(bytes / warmsAfterBytes) * 120 + (temperatureC >= warmC && bytes > 1_000_000_000 ? 120 : 0))
  const whole = mediaS + lightS + convertS
  const spread = measuredBytesPerSecond === undefined ? 2.2 : 1.6
  return { lowS: Math.max(1, Math.round(whole * 0.8)), highS: Math.max(2, Math.ceil(whole * spread + restsS)), restsS }
}
