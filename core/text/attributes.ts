const entities: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

/**
 * The attributes of one element that stands on one line (XML 1.0 section 3.1), those of the table given.
 * By hand: a phone lists hundreds of thousands of these, and a pattern costs three times as much.
 * @param from where the element's name ends
 */
export function readAttributes<Name extends string>(line: string, from: number, known: ReadonlySet<string>): Partial<Record<Name, string>> {
  const out: Partial<Record<Name, string>> = {}
  for (let at = from; ;) {
    const equals = line.indexOf('=', at)
    if (equals < 0) return out
    // either quote opens a value, and the same closes it
    let open = equals + 1
    while (line.charCodeAt(open) <= 32) open++
    const sign = line[open] === "'" ? "'" : '"'
    open = line.indexOf(sign, open)
    const close = open < 0 ? -1 : line.indexOf(sign, open + 1)
    if (close < 0) return out
    const isNext = open === equals + 1 || line.slice(equals + 1, open).trim() === ''
    const before = line.slice(at, equals).trimEnd()
    const name = before.slice(before.lastIndexOf(' ') + 1)
    if (isNext && known.has(name)) {
      const value = line.slice(open + 1, close)
      out[name as Name] = value.includes('&') ? readEntities(value) : value
    }
    at = isNext ? close + 1 : equals + 1
  }
}

/** Attributes as they stand in an element; empty ones are left out. */
export function writeAttributes(attributes: Readonly<Record<string, string | undefined>>): string {
  return Object.entries(attributes)
    .flatMap(([name, value]) => (value === undefined || value === '' ? [] : [`${name}="${escape(value)}"`]))
    .join(' ')
}

function readEntities(text: string): string {
  return text.replace(
    /&(?:#(\d+)|#x([0-9a-f]+)|([a-z]+));/gi,
    (whole, decimal: string | undefined, hex: string | undefined, name: string | undefined) => {
      const point = decimal !== undefined ? Number(decimal) : hex !== undefined ? Number.parseInt(hex, 16) : undefined
      if (point !== undefined) return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : '\ufffd'
      return entities[name!.toLowerCase()] ?? whole
    },
  )
}

function escape(text: string): string {
  return text.replace(/[&<>"\r\n\t]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? `&#${c.charCodeAt(0)};`)
}
