import { foldLine } from '../../text/fold.ts'

/** A property in plain form: nothing is escaped yet. `raw` values are written as they are. */
export interface CalendarProperty {
  readonly name: string
  readonly params?: Readonly<Record<string, string>>
  readonly value: string
  readonly isRaw?: boolean
}

export interface CalendarComponent {
  readonly name: string
  readonly properties: readonly CalendarProperty[]
  readonly components?: readonly CalendarComponent[]
}

/** Writes a component strictly: CRLF, escapes (RFC 5545 section 3.3.11), lines folded at 75 octets. */
export function writeCalendarComponent({ name, properties, components = [] }: CalendarComponent): string {
  const lines = properties.map(({ name: property, params = {}, value, isRaw }) => {
    const head = [
      property,
      ...Object.entries(params).map(([key, param]) => `${key}=${/[;:,]/.test(param) ? `"${param.replaceAll('"', "'")}"` : param}`),
    ].join(';')
    return foldLine(`${head}:${isRaw ? value : escapeText(value)}`)
  })
  return [`BEGIN:${name}`, ...lines, ...components.map((component) => writeCalendarComponent(component).trimEnd()), `END:${name}`, ''].join(
    '\r\n',
  )
}

function escapeText(text: string): string {
  return text.replace(/[\\;,]/g, '\\$&').replace(/\r\n|\r|\n/g, '\\n')
}
