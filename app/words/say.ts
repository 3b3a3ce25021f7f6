import { words } from './words.ts'

/** What stands in a sentence as it is: a figure written out, a name, a time. */
export type Shown = string | number

const whole = new Intl.NumberFormat('en-GB')
let locale = 'en-GB'

/** The language dates are written in from now on, as the shop has set it; words stay as they are. */
export function writeDatesIn(language: string): void {
  locale = language
}

/** 1,204 */
export function number(n: number): string {
  return whole.format(n).replace('-', '−')
}

/** “1 contact”, “1,204 contacts” */
export function items(kind: string, n: number): string {
  return `${number(n)} ${n === 1 ? (words.one[kind] ?? kind) : (words.many[kind] ?? kind)}`
}

/** “39 contacts” of one kind, “2,318 items” of several. */
export function itemsOf(counts: readonly { readonly kind: string; readonly n: number }[]): string {
  const some = counts.filter(({ n }) => n > 0)
  const total = some.reduce((sum, { n }) => sum + n, 0)
  return some.length === 1 ? items(some[0]!.kind, total) : `${number(total)} ${total === 1 ? 'item' : 'items'}`
}

/** “1 person”, “14 people” */
export function people(n: number): string {
  return `${number(n)} ${n === 1 ? 'person' : 'people'}`
}

export function bytes(n: number): string {
  if (n < 1_000) return `${n} B`
  if (n < 1_000_000) return `${Math.round(n / 1_000)} kB`
  if (n < 1_000_000_000) return `${(n / 1_000_000).toFixed(1)} MB`
  return `${(n / 1_000_000_000).toFixed(1)} GB`
}

export function clock(iso: string, zone: string): string {
  return new Intl.DateTimeFormat(locale, { hour: '2-digit', minute: '2-digit', timeZone: zone }).format(new Date(iso))
}

/** “16:30” today, “Tue 10:00” on another day. */
export function promise(iso: string, zone: string, nowMs: number): string {
  const day = (at: number) => new Intl.DateTimeFormat('en-CA', { timeZone: zone }).format(new Date(at))
  const time = clock(iso, zone)
  if (day(Date.parse(iso)) === day(nowMs)) return time
  return `${new Intl.DateTimeFormat(locale, { weekday: 'short', timeZone: zone }).format(new Date(iso))} ${time}`
}

/** “1 h 12 min left”, “5 min late” */
export function untilPromise(iso: string, nowMs: number): string {
  const minutes = Math.round((Date.parse(iso) - nowMs) / 60_000)
  const size = Math.abs(minutes)
  const days = Math.floor(size / 1440)
  const text = days > 0 ? `${days} d` : size >= 60 ? `${Math.floor(size / 60)} h ${size % 60} min` : `${size} min`
  return minutes >= 0 ? `${text} left` : `${text} late`
}

/** A phone by maker and model: makers put their own name into most of their models’. */
export function phoneName({ maker, model }: { maker: string; model: string }): string {
  return model.startsWith(maker) ? model : `${maker} ${model}`
}

/** “3 to see to, 14 after that”: what can be seen to now, and what only shows then. */
export function openNeedsLine({ now, later }: { now: number; later: number }): string {
  if (now === 0) return `${later} to come`
  return later > 0 ? `${now} to see to, ${later} after that` : `${now} to see to`
}

/** “contacts”, “contacts and calls”, “contacts, calls and photos” */
export function together(all: readonly string[]): string {
  return all.join(', ').replace(/, ([^,]*)$/, ' and $1')
}

/** A range of seconds as people say it. */
export function range(lowS: number, highS: number): string {
  if (highS < 5) return 'a few seconds'
  if (highS < 60) return lowS === highS ? `${highS} s` : `${lowS} to ${highS} s`
  const [low, high] = [Math.floor(lowS / 60), Math.ceil(highS / 60)]
  if (low === 0 && high > 1) return `up to ${high} min`
  return low === high ? `${high} min` : low === 0 ? 'about a minute' : `${low} to ${high} min`
}

/** How long something plays: “0:42”, “1:03:20”; a dash where nobody knows. */
export function length(seconds: number): string {
  if (seconds <= 0) return '—'
  const two = (n: number) => String(n).padStart(2, '0')
  const [h, min, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, Math.round(seconds) % 60]
  return h > 0 ? `${number(h)}:${two(min)}:${two(s)}` : `${min}:${two(s)}`
}

/** The same, where it is a guess: “about 5 to 9 min”. */
export function guess(lowS: number, highS: number): string {
  const text = range(lowS, highS)
  return /^\d/.test(text) ? `about ${text}` : text
}

export function ago(sinceMs: number, nowMs: number): string {
  const minutes = Math.floor((nowMs - sinceMs) / 60_000)
  if (minutes < 1) return 'just now'
  return minutes < 60 ? `waiting ${minutes} min` : `waiting ${Math.floor(minutes / 60)} h ${minutes % 60} min`
}

export function reason(code: string): string {
  return words.reasons[code] ?? code
}

/** What waits for a finger on a phone: the question's own words, or those of the guide. */
export function touchLine(say: string): string {
  return words.touch[say] ?? say
}

/** “only the newest 500” */
export function limitLine(name: string, n: number): string {
  return (words.limits[name] ?? `${name}: {n}`).replace('{n}', number(n))
}

/** “5 Nov 2026” */
export function day(iso: string): string {
  return new Intl.DateTimeFormat(locale, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' }).format(new Date(iso))
}

/** “November 2026” of `2026-11`. */
export function month(key: string): string {
  return new Intl.DateTimeFormat(locale, { month: 'long', year: 'numeric', timeZone: 'UTC' }).format(new Date(`${key}-01T00:00:00Z`))
}

/** “5 Nov 2026, 14:02”, as the clock on the wall has it. */
export function moment(iso: string): string {
  const how = { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' } as const
  return new Intl.DateTimeFormat(locale, how).format(new Date(iso))
}

/** “4 items, 5 reasons” where the reasons are more than the items that have them; else nothing need be said. */
export function itemsAndReasons(n: number, reasons: number): string {
  return reasons > n && n > 0 ? `${number(n)} ${n === 1 ? 'item' : 'items'}, ${number(reasons)} reasons` : ''
}

/** “3 short”, “3 short, 1 over”, never netted; empty where neither. */
export function shortAndOver({ short, over }: { short: number; over: number }): string {
  return [short > 0 ? `${number(short)} short` : '', over > 0 ? `${number(over)} over` : ''].filter(Boolean).join(', ')
}

/** “free”, “£2.99” */
export function price(cents: number): string {
  return cents === 0 ? 'free' : `£${(cents / 100).toFixed(2)}`
}

/** “Friday, 27 November 2026 at 14:02”, in the shop's zone. */
export function longMoment(iso: string, zone: string): string {
  return new Intl.DateTimeFormat(locale, { dateStyle: 'long', timeStyle: 'short', timeZone: zone }).format(new Date(iso))
}

/** “27 November 2026”, in the shop's zone. */
export function fullDay(iso: string, zone: string): string {
  return new Intl.DateTimeFormat(locale, { dateStyle: 'long', timeZone: zone }).format(new Date(iso))
}

/** “27 Nov, 14:02”, in the shop's zone. */
export function shortMoment(iso: string, zone: string): string {
  const how = { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', timeZone: zone } as const
  return new Intl.DateTimeFormat(locale, how).format(new Date(iso))
}

/** “Friday, 27 November” */
export function longDay(atMs: number, zone: string): string {
  return new Intl.DateTimeFormat(locale, { weekday: 'long', day: 'numeric', month: 'long', timeZone: zone }).format(atMs)
}
