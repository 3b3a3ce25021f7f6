import { componentText, readComponents, type RawComponent } from './lines.ts'
import { countWork } from '../../text/work.ts'

/** A zone longer than this is none that anybody keeps: events are read without it. Characters. */
const mostZoneText = 100_000

/**
 * Cuts a calendar file into its items as text: each a VCALENDAR with one event, or a series with its overrides
 * (RFC 5545 section 3.8.4.7: what shares a UID is one), with the zones and the calendar's name it was written under.
 * What breaks off stays broken, so that who reads it says so. Tasks, journals and busy times are no items, and counted.
 * An item is written when it is asked for: a zone that many share is not held once for each.
 */
export function splitCalendar(text: string): { count: number; others: number; items: () => Generator<string> } {
  const cut: { head: readonly string[]; zones: ReadonlyMap<string, RawComponent>; events: readonly RawComponent[] }[] = []
  let others = 0
  for (const root of readComponents(text).roots) {
    if (root.name === 'VEVENT') cut.push({ head: [], zones: new Map(), events: [root] })
    if (root.name !== 'VCALENDAR') continue
    const head = headOf(root)
    const zones = zonesOf(root)
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
    for (const events of series.values()) cut.push({ head, zones, events })
  }
  return {
    count: cut.length,
    others,
    *items() {
      for (const { head, zones, events } of cut) yield wrap(head, usedBy(events, zones), events)
    },
  }
}

/** What an item takes along of its calendar: each property once. */
function headOf({ lines }: RawComponent): string[] {
  return ['VERSION', 'X-WR-CALNAME', 'X-WR-TIMEZONE'].flatMap((name) => {
    const wanted = new RegExp(`^${name}[;:]`, 'i')
    return lines.find((line) => wanted.test(line)) ?? []
  })
}

/** The zones of a calendar by their names; the first of a name is it. */
function zonesOf({ components }: RawComponent): ReadonlyMap<string, RawComponent> {
  const zones = new Map<string, RawComponent>()
  for (const component of components) {
    if (component.name !== 'VTIMEZONE') continue
    countWork(1)
    const line = component.lines.find((text) => /^TZID[;:]/i.test(text))
    const name = line?.slice(line.indexOf(':') + 1).trim()
    if (name !== undefined && !zones.has(name) && lengthOf(component) <= mostZoneText) zones.set(name, component)
  }
  return zones
}

function lengthOf({ lines, components }: RawComponent): number {
  return lines.reduce((sum, line) => sum + line.length, 0) + components.reduce((sum, inner) => sum + lengthOf(inner), 0)
}

/** Of all zones only those that its events name. */
function usedBy(events: readonly RawComponent[], zones: ReadonlyMap<string, RawComponent>): RawComponent[] {
  if (zones.size === 0) return []
  const used = new Set(events.flatMap(({ lines }) => lines.flatMap((line) => /;TZID="?([^";:]+)"?/i.exec(line.slice(0, 300))?.[1] ?? [])))
  countWork(used.size)
  return [...used].flatMap((name) => zones.get(name) ?? [])
}

function wrap(head: readonly string[], zones: readonly RawComponent[], events: readonly RawComponent[]): string {
  const isCut = events.some((event) => event.isCut)
  const body = ['BEGIN:VCALENDAR', ...head, ...zones.map(componentText), ...events.map(componentText)]
  return [...body, ...(isCut ? [] : ['END:VCALENDAR']), ''].join('\r\n')
}
