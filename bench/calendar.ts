import ICAL from 'ical.js'
import { calendar } from '#core/kinds/calendar/index.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { calendarOf } from '#standins/kinds/calendar/demo.ts'
import { calendarWays, giveEvent } from '#standins/kinds/calendar/ics.ts'
import { placeEvent } from '#core/formats/icalendar/event.ts'
import { readCalendar } from '#core/formats/icalendar/read.ts'
import { report, sideBySide } from './measure.ts'
import { gb } from './shop.ts'

const count = 20_000

/** Reading 20,000 events wrapped, so that one damaged component is one issue, against ical.js reading the same alone. */
export async function measureCalendar(): Promise<void> {
  const texts = [...calendarOf({ seed: 7, count, style: 'plain' })].map(({ stored }) =>
    giveEvent(stored, calendarWays.orrin).toString('utf8'),
  )
  let read = 0
  const wrapped = () => {
    for (const text of texts) {
      for (const event of readCalendar(text).events) if (!('code' in event)) read++
    }
  }
  const alone = () => {
    for (const text of texts) {
      const root = new ICAL.Component(ICAL.parse(text) as never)
      // the same parts of each event, without what keeps one damaged component from spoiling the rest
      for (const component of root.getAllSubcomponents('vevent')) if (!('code' in placeEvent(component))) read++
    }
  }
  const { firstMs, secondMs } = await sideBySide(5, wrapped, alone)
  const bodies = texts.map((text) => Buffer.from(text))
  const tools = readTools(gb, Date.UTC(2026, 10, 20))
  const began = performance.now()
  for (const body of bodies) calendar.read(body, tools)
  console.log(
    `${count} events (${read > 0 ? 'read' : 'none'}): wrapped ${firstMs.toFixed(0)} ms, ical.js alone ${secondMs.toFixed(0)} ms; with their meaning, zones and rules ${(performance.now() - began).toFixed(0)} ms`,
  )
  report('reading events, ours over ical.js alone', firstMs / secondMs, { atMost: 1.1 })
}
