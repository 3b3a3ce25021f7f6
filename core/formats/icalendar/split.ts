import { componentText, readComponents, type RawComponent } from './lines.ts'

/**
 * Cuts a calendar file into its items as text: each a VCALENDAR with one event, or a series with its overrides
 * (RFC 5545 section 3.8.4.7: what shares a UID is one), with the zones and the calendar's name it was written under.
 * What breaks off stays broken, so that who reads it says so. Tasks, journals and busy times are no items, and counted.
 */
export function splitCalendar(text: string): { items: string[]; others: number } {
  const items: string[] = []
  let others = 0
  for (const root of readComponents(text).roots) {
    if (root.name === 'VEVENT') items.push(wrap([], [], [root]))
    if (root.name !== 'VCALENDAR') continue
    const head = root.lines.filter((line) => /^(X-WR-CALNAME|X-WR-TIMEZONE|VERSION)[;:]/i.test(line))
    const zones = root.components.filter(({ name }) => name === 'VTIMEZONE')
    const series = new Map<string, RawComponent[]>()
    root.components.forEach((component, i) => {
      if (component.name !== 'VEVENT') {
        if (component.name !== 'VTIMEZONE') others++
        return
      }
      const uid = component.lines.find((line) => /^UID[;:]/i.test(line))
      // without a UID it is alone
      const key = uid ? uid.slice(uid.indexOf(':') + 1).trim() : ` ${i}`
      const same = series.get(key)
      if (same) same.push(component)
      else series.set(key, [component])
    })
    for (const events of series.values()) items.push(wrap(head, zonesOf(events, zones), events))
  }
  return { items, others }
}

/** Of all zones only those that its events name. */
function zonesOf(events: readonly RawComponent[], zones: readonly RawComponent[]): RawComponent[] {
  if (zones.length === 0) return []
  const used = new Set(events.flatMap(({ lines }) => lines.flatMap((line) => /;TZID="?([^";:]+)"?/i.exec(line.slice(0, 300))?.[1] ?? [])))
  return zones.filter(({ lines }) => lines.some((line) => /^TZID[;:]/i.test(line) && used.has(line.slice(line.indexOf(':') + 1).trim())))
}

function wrap(head: readonly string[], zones: readonly RawComponent[], events: readonly RawComponent[]): string {
  const isCut = events.some((event) => event.isCut)
  const body = ['BEGIN:VCALENDAR', ...head, ...zones.map(componentText), ...events.map(componentText)]
  return [...body, ...(isCut ? [] : ['END:VCALENDAR']), ''].join('\r\n')
}
